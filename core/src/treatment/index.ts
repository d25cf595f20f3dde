export { treatmentFile, treatmentFileSchema, type TreatmentFile } from './file.ts';
export type { Starter } from './starters/parts.ts';
export { starters } from './starters/registry.ts';
export { asNextVersion, faultOfTreatment, treatmentFrom, type Treatment } from './treatment.ts';
