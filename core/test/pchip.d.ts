declare module 'pchip' {
  const pchip: {
    /** Tangents at points [x, y], by F. N. Fritsch and R. E. Carlson. */
    slopes_monotone: (points: [number, number][]) => number[];
  };
  export default pchip;
}
