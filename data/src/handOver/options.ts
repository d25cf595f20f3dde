/** What a file that is handed over is to be. */
import type { SpaceId } from '@umbo/core/base';
import type { FileFormat } from '@umbo/core/format';
import type { Intent } from '@umbo/files';

/** How large a file's picture is: its longer side, a share of the photograph, or exactly, cut to that about its middle. */
export type OutputSize =
  | { readonly kind: 'long'; readonly pixels: number }
  | { readonly kind: 'percent'; readonly percent: number }
  | { readonly kind: 'exact'; readonly width: number; readonly height: number };

export interface HandOverOptions {
  fileName: string;
  format: FileFormat;
  bits: 8 | 16;
  /** Of the file; that in which the edit is worked on. */
  space: SpaceId | 'working';
  /** A profile of the shoot that the file is for, instead of a space; left out: none. */
  profile?: { id: number; intent: Intent; black: boolean };
  /** Whether 8 bits are dithered, against steps in smooth places; left out: no. */
  dither?: boolean;
  /** Of lossy formats, 1..100. */
  quality: number;
  /** Of lossy formats: the best quality, up to that above, with which the file has at most so many kilobytes (of 1000 bytes). */
  atMost?: number;
  /** Left out: as large as the photograph. */
  size?: OutputSize;
  /** For what it is sharpened after it was brought to its size; left out: not at all. */
  sharpen?: 'screen' | 'print';
  /** What of the photograph's own metadata goes along; left out: all. */
  metadata?: 'all' | 'rights' | 'none';
  /** Whether the place where it was taken goes along, too. */
  place?: boolean;
  /** The alternative of a colourway set that it shows, by its layer; left out: what shows in the edit. */
  way?: string;
  /** One grey channel, without a profile: for masks. */
  grey?: true;
}
