/** Grows when edits can hold what engines before cannot render, or would render differently. Jobs are taken by this engine or a newer one. */
export const ENGINE_VERSION = 5;
