/** The kinds of files that pictures are handed over in. */
export type FileFormat = 'jpeg' | 'png' | 'tiff' | 'webp' | 'avif';

/** Whether a format keeps less than there is, and only 8 bits of it. */
export const isLossy = (format: FileFormat): boolean => format !== 'png' && format !== 'tiff';

export const FILE_ENDINGS: Readonly<Record<FileFormat, string>> = { jpeg: '.jpg', png: '.png', tiff: '.tif', webp: '.webp', avif: '.avif' };
