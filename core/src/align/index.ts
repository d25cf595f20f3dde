export { align, type Alignment } from './align.ts';
export type { Motion } from './motion.ts';
export type { Grey } from './gradients.ts';
export { asFrame, coveredByBoth, type Laid } from './asFrame.ts';
