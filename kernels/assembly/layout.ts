// Where things lie in the module's memory. `src/index.ts` repeats these numbers.
// Planes of float32, one tile each; tables of float32 with one entry past the end.
export const PLANE_R: usize = 0x10000;
export const PLANE_G: usize = 0x20000;
export const PLANE_B: usize = 0x30000;
export const PLANE_OUT: usize = 0x40000;
export const TABLE_DECODE: usize = 0x50000;
export const TABLE_ENCODE: usize = 0x55000;
export const TABLE_HUE: usize = 0x5a000;
// Three more tables as long as the hue table.
export const TABLE_1: usize = 0x5f000;
export const TABLE_2: usize = 0x64000;
export const TABLE_3: usize = 0x69000;
// Tables of colours begin at 0x70000; the memory grows with them.
