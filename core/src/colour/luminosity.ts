/** What each channel counts in the luminosity of W3C Compositing and Blending Level 1, section 10.2. */
export const LUM = { r: 0.3, g: 0.59, b: 0.11 } as const;

/** Lum of W3C Compositing and Blending Level 1, section 10.2: of encoded values, in whatever unit they are. */
export const lumOf = (r: number, g: number, b: number): number => LUM.r * r + LUM.g * g + LUM.b * b;
