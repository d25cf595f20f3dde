/** Which of the face mesh's 478 points are what, as the models' own documentation of the mesh numbers them. Left and right are the picture's. */

/** The points that the mesh's refining nets find again: in the order in which they give them. */
export const LIP_POINTS = [
  61, 146, 91, 181, 84, 17, 314, 405, 321, 375, 291, 185, 40, 39, 37, 0, 267, 269, 270, 409, 78, 95, 88, 178, 87, 14, 317, 402, 318, 324,
  308, 191, 80, 81, 82, 13, 312, 311, 310, 415, 76, 77, 90, 180, 85, 16, 315, 404, 320, 307, 306, 184, 74, 73, 72, 11, 302, 303, 304, 408,
  62, 96, 89, 179, 86, 15, 316, 403, 319, 325, 292, 183, 42, 41, 38, 12, 268, 271, 272, 407,
];
export const LEFT_EYE_POINTS = [
  33, 7, 163, 144, 145, 153, 154, 155, 133, 246, 161, 160, 159, 158, 157, 173, 130, 25, 110, 24, 23, 22, 26, 112, 243, 247, 30, 29, 27, 28,
  56, 190, 226, 31, 228, 229, 230, 231, 232, 233, 244, 113, 225, 224, 223, 222, 221, 189, 35, 124, 46, 53, 52, 65, 143, 111, 117, 118, 119,
  120, 121, 128, 245, 156, 70, 63, 105, 66, 107, 55, 193,
];
export const RIGHT_EYE_POINTS = [
  263, 249, 390, 373, 374, 380, 381, 382, 362, 466, 388, 387, 386, 385, 384, 398, 359, 255, 339, 254, 253, 252, 256, 341, 463, 467, 260,
  259, 257, 258, 286, 414, 446, 261, 448, 449, 450, 451, 452, 453, 464, 342, 445, 444, 443, 442, 441, 413, 265, 353, 276, 283, 282, 295,
  372, 340, 346, 347, 348, 349, 350, 357, 465, 383, 300, 293, 334, 296, 336, 285, 417,
];

/** Closed outlines. */
export const OUTER_LIPS = [61, 185, 40, 39, 37, 0, 267, 269, 270, 409, 291, 375, 321, 405, 314, 17, 84, 181, 91, 146];
export const INNER_LIPS = [78, 191, 80, 81, 82, 13, 312, 311, 310, 415, 308, 324, 318, 402, 317, 14, 87, 178, 88, 95];
export const LEFT_EYE = [33, 246, 161, 160, 159, 158, 157, 173, 133, 155, 154, 153, 145, 144, 163, 7];
export const RIGHT_EYE = [263, 466, 388, 387, 386, 385, 384, 398, 362, 382, 381, 380, 374, 373, 390, 249];
export const LEFT_BROW = [70, 63, 105, 66, 107, 55, 65, 52, 53, 46];
export const RIGHT_BROW = [300, 293, 334, 296, 336, 285, 295, 282, 283, 276];

/** The middles of the irises; the four points after each lie on its rim. */
export const IRISES = [468, 473];
/** The eyes' outer corners, from which the turn of the face is taken. */
export const LEFT_CORNER = 33;
export const RIGHT_CORNER = 263;
/** Where the cheeks end to the left and right, from which the turn to the side is taken. */
export const LEFT_CHEEK = 234;
export const RIGHT_CHEEK = 454;
export const NOSE = 2;
export const CHIN = 152;
/** The middles of the lips' inner edges. */
export const UPPER_LIP = 13;
export const LOWER_LIP = 14;
/** Places of clear skin: forehead, cheeks, nose. */
export const CLEAR_SKIN = [50, 280, 101, 330, 205, 425, 9, 151, 108, 337, 4, 197, 117, 346];
/** Of those, the ones whose lightness stands for the face's. */
export const LIGHT_SKIN = [50, 280, 151, 9, 108, 337];
