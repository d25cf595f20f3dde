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
export const LONG_SIDE = 2100;
