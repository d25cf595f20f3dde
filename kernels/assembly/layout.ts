// Where things lie in the module's memory: for the module itself and for those who fill it.
// Planes of float32, one tile each; tables of float32 with one entry past the end.
export const PLANE_R: usize = 0x10000;
export const PLANE_G: usize = 0x20000;
export const PLANE_B: usize = 0x30000;
export const PLANE_OUT: usize = 0x40000;
export const PLANE_PIXELS: i32 = 16384;
export const TABLE_DECODE: usize = 0x50000;
export const TABLE_ENCODE: usize = 0x55000;
export const TABLE_HUE: usize = 0x5a000;
// Three more tables as long as the hue table.
export const TABLE_1: usize = 0x5f000;
export const TABLE_2: usize = 0x64000;
export const TABLE_3: usize = 0x69000;
// Numbers of OKLab and of the space in work.
export const TABLE_OKLAB: usize = 0x6e000;
export const TABLE_CONES: usize = 0x6e100;
// Tables of colours; the memory grows with them.
export const LUTS: usize = 0x70000;
