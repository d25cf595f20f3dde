export { type CameraFacts } from './cameraFacts.ts';
export { exifValues } from './exifValues.ts';
export { readMetadata, type MetadataBlocks } from './metadata.ts';
export * from './bin.ts';
export * from './carry/carries.ts';
export * from './carry/treatments.ts';
export { assetInfo, hashFile, readAsset, storeAsset } from './assets.ts';
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
export { decode, refuseUnreadable, MEGAPIXEL_LIMIT, type DecodeHow } from './decode.ts';
export * from './documents.ts';
export * from './finding.ts';
export { followEvents, forgetEvents, type ServerEvent } from './events.ts';
export { intoProfile, type Press } from './colour/intoProfile.ts';
export { SAMPLES } from './colour/lcms.ts';
export { profileOf } from './colour/profile.ts';
export { addProfile, listProfiles, PROFILE_BYTES, readProfile, removeProfile, type Profile } from './colour/profiles.ts';
export { INTENTS, latticeColours, PROOF_SIDE, proofTables, withProof, type Intent, type ProofHow } from './colour/proof.ts';
export { readAskedEdit, sweepAskedEdits } from './handOver/askedEdits.ts';
export * from './handOver/batches.ts';
export * from './handOver/handOvers.ts';
export type * from './handOver/options.ts';
export * from './imports.ts';
export * from './jobs.ts';
export {
  ensureLevels,
  levelFile,
  levelsAreThere,
  MASK_SPACE,
  pixelsFor,
  readLevelRows,
  readPictureHere,
  readPicturesBy,
  scratchFolder,
  shrinkCache,
  sweepCache,
  withAsset,
  type PictureRead,
  type PixelsOf,
  type ReadPicture,
} from './levels.ts';
export { migrate } from './migrate.ts';
export { arePixelsGone } from './pixelLease.ts';
export * from './jobKinds.ts';
export { DocumentRow, HistoryRow, Job, Photograph, Shoot, type JobState, type PhotographState } from './models.ts';
export * from './masks.ts';
export * from './palettes.ts';
export * from './handOver/presets.ts';
export * from './photographs.ts';
export * from './previews.ts';
export { Problem, type ProblemKind } from './problem.ts';
export { type ImportOptions, type ReadFile } from './readFile.ts';
export { sweepReferences } from './references.ts';
export * from './handOver/comparisonPdf.ts';
export * from './handOver/sheets.ts';
export * from './shoots.ts';
export * from './settings.ts';
export * from './versions.ts';
