/**
 * Addresses of what browsers keep for ever. They name the content, and not a number of this database alone: another database on the
 * same port has other photographs under the same numbers.
 */

export const pixelsAddress = (photograph: { id: number; sha256: string }, level: number, from: number, to: number): string =>
  `/api/photographs/${photograph.id}/pixels?of=${photograph.sha256}&level=${level}&from=${from}&to=${to}`;

export const previewAddress = (database: string, photographId: number, revision: number): string =>
  `/api/photographs/${photographId}/preview?database=${database}&revision=${revision}`;

/** Of a model that regions are found with; '' for the folder. */
export const modelAddress = (file: string): string => `/api/models/${file}`;
