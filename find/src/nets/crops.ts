/** The operations of the face mesh that are not among the format's own: cropping about landmarks, and bringing what is found back. */

/** What a crop is taken about: landmarks that it holds, and two that say how it is turned. */
export interface CropOptions {
  readonly left: number;
  readonly right: number;
  /** Radians that the line from the left one to the right one is to have. */
  readonly angle: number;
  readonly scaleX: number;
  readonly scaleY: number;
  readonly width: number;
  readonly height: number;
  readonly held: readonly number[];
}

/** The options, written as a FlexBuffer's map (FlatBuffers' schema-less format): keys by name, each with its type. */
export function readCropOptions(bytes: Uint8Array): CropOptions {
  const values = readMap(bytes);
  const number = (key: string): number => values.get(key) as number;
  return {
    left: number('left_rotation_idx'),
    right: number('right_rotation_idx'),
    angle: number('target_rotation_radians'),
    scaleX: number('scale_x'),
    scaleY: number('scale_y'),
    width: number('output_width'),
    height: number('output_height'),
    held: values.get('subset_idxs') as number[],
  };
}

/** Types of a FlexBuffer's values. */
const [INT, UINT, FLOAT, INDIRECT_INT, INDIRECT_UINT, INDIRECT_FLOAT, LIST] = [1, 2, 3, 6, 7, 8, 10];
const isTypedList = (type: number): boolean => type >= 11 && type <= 15;

function readMap(bytes: Uint8Array): Map<string, number | number[]> {
  const data = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const unsigned = (at: number, width: number): number =>
    width === 1 ? data.getUint8(at) : width === 2 ? data.getUint16(at, true) : data.getUint32(at, true);
  const signed = (at: number, width: number): number =>
    width === 1 ? data.getInt8(at) : width === 2 ? data.getInt16(at, true) : data.getInt32(at, true);
  const end = bytes.length;
  const rootWidth = bytes[end - 1]!;
  const root = end - 2 - rootWidth;
  const map = root - unsigned(root, rootWidth);
  const width = 1 << (bytes[end - 2]! & 3);
  const count = unsigned(map - width, width);
  const keys = map - 3 * width - unsigned(map - 3 * width, width);
  const keyWidth = unsigned(map - 2 * width, width);
  const values = new Map<string, number | number[]>();
  for (let i = 0; i < count; i++) {
    let key = keys + i * keyWidth;
    key -= unsigned(key, keyWidth);
    const name = new TextDecoder().decode(bytes.subarray(key, bytes.indexOf(0, key)));
    const packed = bytes[map + count * width + i]!;
    const [type, inner, at] = [packed >> 2, 1 << (packed & 3), map + i * width];
    const there = (): number => at - unsigned(at, width);
    if (type === INT) values.set(name, signed(at, width));
    else if (type === UINT) values.set(name, unsigned(at, width));
    else if (type === FLOAT) values.set(name, width === 4 ? data.getFloat32(at, true) : data.getFloat64(at, true));
    else if (type === INDIRECT_INT || type === INDIRECT_UINT) values.set(name, unsigned(there(), inner));
    else if (type === INDIRECT_FLOAT) values.set(name, data.getFloat32(there(), true));
    else if (type === LIST || isTypedList(type)) {
      const list = there();
      values.set(
        name,
        Array.from({ length: unsigned(list - inner, inner) }, (_, j) => unsigned(list + j * inner, inner)),
      );
    } else throw new Error(`A model's options hold a value of type ${type}, which is not known`);
  }
  return values;
}

const turned = (angle: number): number => angle - 2 * Math.PI * Math.floor((angle + Math.PI) / (2 * Math.PI));

/** A matrix, 4 x 4, that leads from a crop's pixels to those of what it is taken from. @param landmarks three numbers each */
export function cropMatrix(landmarks: Float32Array, options: CropOptions): Float32Array {
  const at = (i: number): [number, number] => [landmarks[3 * i]!, landmarks[3 * i + 1]!];
  const [left, right] = [at(options.left), at(options.right)];
  const angle = turned(options.angle - Math.atan2(-(right[1] - left[1]), right[0] - left[0]));
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const boxOf = (points: readonly [number, number][]): { x: number; y: number; width: number; height: number } => {
    const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
    const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
    return { x: (x0 + x1) / 2, y: (y0 + y1) / 2, width: x1 - x0, height: y1 - y0 };
  };
  const held = options.held.map(at);
  const about = boxOf(held);
  const box = boxOf(held.map(([x, y]) => [(x - about.x) * cos + (y - about.y) * sin, -(x - about.x) * sin + (y - about.y) * cos]));
  const cx = box.x * cos - box.y * sin + about.x;
  const cy = box.x * sin + box.y * cos + about.y;
  const [width, height] = [box.width * options.scaleX, box.height * options.scaleY];
  const matrix = new Float32Array(16);
  matrix[0] = (cos * width) / options.width;
  matrix[1] = (-sin * height) / options.height;
  matrix[3] = cx - 0.5 * width * cos + 0.5 * height * sin;
  matrix[4] = (sin * width) / options.width;
  matrix[5] = (cos * height) / options.height;
  matrix[7] = cy - 0.5 * width * sin - 0.5 * height * cos;
  matrix[10] = matrix[15] = 1;
  return matrix;
}

/** Samples a crop, bilinear; beside the picture there is nothing. @param shape of what it is taken from: one, height, width, channels */
export function sampleCrop(
  from: Float32Array,
  shape: readonly number[],
  matrix: Float32Array,
  height: number,
  width: number,
): Float32Array {
  const [, rows, columns, channels] = shape as [number, number, number, number];
  const out = new Float32Array(height * width * channels);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const u = x * matrix[0]! + y * matrix[1]! + matrix[3]!;
      const v = x * matrix[4]! + y * matrix[5]! + matrix[7]!;
      const [x0, y0] = [Math.floor(u), Math.floor(v)];
      for (const [dx, dy] of [
        [0, 0],
        [1, 0],
        [0, 1],
        [1, 1],
      ] as const) {
        const [column, row] = [x0 + dx, y0 + dy];
        if (column < 0 || row < 0 || column >= columns || row >= rows) continue;
        const share = (dx === 1 ? u - x0 : 1 - (u - x0)) * (dy === 1 ? v - y0 : 1 - (v - y0));
        const [source, target] = [(row * columns + column) * channels, (y * width + x) * channels];
        for (let c = 0; c < channels; c++) out[target + c] = out[target + c]! + share * from[source + c]!;
      }
    }
  return out;
}

/** Points of a crop, two numbers each, in what it was taken from. */
export function movePoints(points: Float32Array, matrix: Float32Array): Float32Array {
  const out = new Float32Array(points.length);
  for (let i = 0; i + 1 < points.length; i += 2) {
    out[i] = points[i]! * matrix[0]! + points[i + 1]! * matrix[1]! + matrix[3]!;
    out[i + 1] = points[i]! * matrix[4]! + points[i + 1]! * matrix[5]! + matrix[7]!;
  }
  return out;
}
