/** The kinds of files that pictures are handed over in. How each is written is in `render/src/encoders.ts`. */

export interface FileFormatFacts {
  /** As people know it. */
  readonly name: string;
  /** Of its files' names, with the dot. */
  readonly ending: string;
  /** Whether it keeps less than there is, and only 8 bits of it. */
  readonly isLossy: boolean;
  /** Whether it holds the four inks of a press. */
  readonly holdsInks: boolean;
}

export const fileFormats = {
  jpeg: { name: 'JPEG', ending: '.jpg', isLossy: true, holdsInks: true },
  png: { name: 'PNG', ending: '.png', isLossy: false, holdsInks: false },
  tiff: { name: 'TIFF', ending: '.tif', isLossy: false, holdsInks: true },
  webp: { name: 'WebP', ending: '.webp', isLossy: true, holdsInks: false },
  avif: { name: 'AVIF', ending: '.avif', isLossy: true, holdsInks: false },
} as const satisfies Record<string, FileFormatFacts>;

export type FileFormat = keyof typeof fileFormats;
export const fileFormatIds = Object.keys(fileFormats) as FileFormat[];
