export { boxMean, guideLines, type GuideLines } from './fastGuided.ts';
export { gaussianBlur, gaussianReach } from './gaussian.ts';
export { guidedFilter } from './guided.ts';
export { guidedPlanes, guidedReach } from './guidedPlanes.ts';
