export { align, type Alignment, type Motion } from './align.ts';
export type { Grey } from './gradients.ts';
export { asFrame, coveredByBoth, type Laid } from './asFrame.ts';
