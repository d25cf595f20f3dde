export { readCgats, writeCgats, type NamedLab } from './cgats.ts';
export { parseCube, writeCube, type CubeLut } from './cube.ts';
export { tiffHeader } from './tiff.ts';
