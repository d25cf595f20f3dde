export { hashFile } from './hash.ts';
export { type CameraFacts } from './read/cameraFacts.ts';
export { decode, MEGAPIXEL_LIMIT, refuseUnreadable, type DecodeHow } from './read/decode.ts';
export { exifValues } from './read/exifValues.ts';
export { type MetadataBlocks } from './read/metadataBlocks.ts';
export { dropOldFormats, dropPixels, pixelsInCache, shrinkCache } from './cache/budget.ts';
export { arePixelsGone } from './cache/lease.ts';
export {
  levelFile,
  levelsAreThere,
  MASK_SPACE,
  readLevelRows,
  readPicture,
  readPictureHere,
  readPicturesBy,
  scratchFolder,
  type PictureRead,
  type PixelsOf,
  type ReadPicture,
} from './cache/levels.ts';
export { intoProfile, type Press } from './colour/intoProfile.ts';
export { judgeProfile, PROFILE_BYTES } from './colour/judgeProfile.ts';
export { SAMPLES, type Samples } from './colour/lcms.ts';
export { profileOf } from './colour/profile.ts';
export { INTENTS, PROOF_SIDE, proofTables, withProof, type Intent, type ProofHow } from './colour/proof.ts';
export { comparisonPdf, type ComparisonOnPaper } from './paper/comparisonPdf.ts';
export { sheetPdf, sheetPicture, type OnSheet } from './paper/sheet.ts';
