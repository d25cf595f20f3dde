'use client';

/** So long the browser may take until it reads the content. */
const KEPT_MS = 60_000;

/** Hands a text to the browser as a file. */
export function saveFile(name: string, text: string, type: string): void {
  const address = URL.createObjectURL(new Blob([text], { type }));
  Object.assign(document.createElement('a'), { href: address, download: name }).click();
  // Not at once: the browser may ask first where the file is to go.
  setTimeout(() => URL.revokeObjectURL(address), KEPT_MS);
}
