import { levelCount, levelSize, type Size } from '@umbo/core/base';

/** The models by what they are for, and the files that hold them. */
export const MODEL_FILES = {
  shortRange: 'face_detection_short_range.tflite',
  fullRange: 'face_detection_full_range.tflite',
  mesh: 'face_landmark_with_attention.tflite',
  classes: 'selfie_multiclass_256x256.tflite',
  person: 'selfie_segmentation.tflite',
} as const;

/** The name of the models and of what is made of them, as it is written into what was found with them: it changes when they do. */
export const FINDER = 'umbo-find-2';

/** Longer side of the picture in which regions are found, at most: more does not find better, and takes longer. */
const LONG_SIDE = 2100;

/** The level of a photograph's pyramid in which its regions are found. */
export function findingLevel(full: Size): number {
  let level = 0;
  const longSide = (of: number): number => Math.max(levelSize(full, of).width, levelSize(full, of).height);
  while (level + 1 < levelCount(full) && longSide(level) > LONG_SIDE) level++;
  return level;
}
