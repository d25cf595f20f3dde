export { readCgats, writeCgats, type NamedLab } from './cgats.ts';
export { parseCube, writeCube, type CubeLut } from './cube.ts';
export { fileFormatIds, fileFormats, type FileFormat } from './fileFormats.ts';
export { clashesIn, fillPattern, NAME_FIELDS, PLAIN_PATTERN, type NamedBy, type NameField } from './namePattern.ts';
