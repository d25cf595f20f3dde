/** A directory of a little-endian TIFF (TIFF 6.0, section 2). */
export function directory(entries: readonly (readonly [tag: number, type: number, count: number, value: number])[], next?: number): Buffer;
