/** What is known of a file on its way into a shoot. */
import type { PictureRead } from '@umbo/files';

export interface ImportOptions {
  shootId: number;
  name: string;
  /** Whether it is to serve as a mask only. */
  isMask: boolean;
  /** Whether Umbo found that mask itself; left out: no. */
  isFound?: boolean;
}

/** A file whose pixels are in the cache: to be put into a shoot. */
export interface ReadFile {
  path: string;
  sha256: string;
  picture: PictureRead;
}
