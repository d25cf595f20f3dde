/**
 * How photographs become pixels: grows when decoding changes, so that neither the server's cache nor a browser's shows what an older one made
 * beside what a newer one makes.
 */
export const PIXELS_FORMAT = 'v3';
