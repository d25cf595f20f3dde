export { readMetadata } from './metadata.ts';
export * from './bin.ts';
export * from './carry/carries.ts';
export * from './carry/treatments.ts';
export { assetInfo, readAsset, storeAsset } from './assets.ts';
export {
  connect,
  databaseIsAway,
  databaseIsBusy,
  databaseIsFull,
  forgetWorks,
  inTransaction,
  once,
  patiently,
  type Database,
} from './database.ts';
export * from './documents.ts';
export * from './finding.ts';
export { followEvents, forgetEvents, type ServerEvent } from './events.ts';
export { addProfile, listProfiles, readProfile, removeProfile, type Profile } from './profiles.ts';
export { readAskedEdit, sweepAskedEdits } from './handOver/askedEdits.ts';
export * from './handOver/batches.ts';
export * from './handOver/handOvers.ts';
export type * from './handOver/options.ts';
export * from './imports.ts';
export * from './jobs.ts';
export { migrate } from './migrate.ts';
export * from './jobKinds.ts';
export { DocumentRow, HistoryRow, Job, Photograph, Shoot, type JobState, type PhotographState } from './models.ts';
export * from './maskPictures.ts';
export * from './masks.ts';
export * from './palettes.ts';
export * from './handOver/presets.ts';
export * from './photographs.ts';
export * from './pixels.ts';
export * from './previews.ts';
export { type ImportOptions, type ReadFile } from './importFile.ts';
export { sweepReferences } from './references.ts';
export * from './handOver/sheets.ts';
export * from './shoots.ts';
export * from './settings.ts';
export * from './versions.ts';
