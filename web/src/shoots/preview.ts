/** Where the small picture of an edit is; a new revision has a new address. */
export const previewAddress = (photographId: number, revision: number): string =>
  `/api/photographs/${photographId}/preview?revision=${revision}`;
