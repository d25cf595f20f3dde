/**
 * How photographs become pixels: grows when decoding changes, so that neither the server's cache nor a browser's shows what an older one made
 * beside what a newer one makes.
 */
export const PIXELS_FORMAT = 'v3';

/** Grows when edits can hold what engines before cannot render, or would render differently. Jobs are taken by this engine or a newer one. */
export const ENGINE_VERSION = 5;
