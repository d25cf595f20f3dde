/** Matrices of three rows, as tuples. */
export type Row = readonly [number, number, number];
export type Matrix = readonly [Row, Row, Row];

export const multiply = (a: Matrix, b: Matrix): Matrix =>
  a.map((row) => [0, 1, 2].map((j) => row[0] * b[0][j]! + row[1] * b[1][j]! + row[2] * b[2][j]!)) as unknown as Matrix;

export const times = (m: Matrix, v: Row): Row => m.map((row) => row[0] * v[0] + row[1] * v[1] + row[2] * v[2]) as unknown as Row;

/** The inverse of a matrix that has one. */
export function inverse([[a, b, c], [d, e, f], [g, h, i]]: Matrix): Matrix {
  const determinant = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  const adjugate: Matrix = [
    [e * i - f * h, c * h - b * i, b * f - c * e],
    [f * g - d * i, a * i - c * g, c * d - a * f],
    [d * h - e * g, b * g - a * h, a * e - b * d],
  ];
  return adjugate.map((row) => row.map((v) => v / determinant)) as unknown as Matrix;
}
