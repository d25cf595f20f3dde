/** The number types of AssemblyScript that its shared files name. */
declare global {
  type usize = number;
  type i32 = number;
}
export {};
