import type { Scale, Size } from '../base/geometry.ts';
import type { UmboDocument } from './types.ts';

/** What an edit's photograph is rendered at, and in which space. @param picture its size there */
export const scaleOf = ({ photo, workingSpace }: UmboDocument, picture: Size): Scale => ({ picture, full: photo, space: workingSpace });
