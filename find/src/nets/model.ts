/** Reads models in TensorFlow Lite's file format: a FlatBuffer as its schema (tensorflow/lite/schema/schema.fbs) lays it out. */

/** The types of numbers in a model, as the schema counts them. */
export const FLOAT32 = 0;
export const FLOAT16 = 1;
export const INT32 = 2;

export interface ModelTensor {
  readonly shape: readonly number[];
  readonly type: number;
  /** What a constant holds; null for what is computed. */
  readonly data: Uint8Array | null;
}

export interface Step {
  /** A builtin operation's number in the schema; {@link CUSTOM} for one that is named. */
  readonly code: number;
  readonly custom: string;
  readonly inputs: readonly number[];
  readonly outputs: readonly number[];
  readonly options: Table | null;
  readonly customOptions: Uint8Array | null;
}

export interface Model {
  readonly tensors: readonly ModelTensor[];
  readonly steps: readonly Step[];
  readonly inputs: readonly number[];
  readonly outputs: readonly number[];
}

/** A table of a FlatBuffer, whose fields are found by their number. */
export class Table {
  readonly #data: DataView;
  readonly #at: number;

  constructor(data: DataView, at: number) {
    this.#data = data;
    this.#at = at;
  }

  /** Where a field is, from the table on; 0 where it is left out. */
  #offset(field: number): number {
    const names = this.#at - this.#data.getInt32(this.#at, true);
    const place = 4 + 2 * field;
    return place < this.#data.getUint16(names, true) ? this.#data.getUint16(names + place, true) : 0;
  }

  #reference(field: number): number {
    const offset = this.#offset(field);
    return offset === 0 ? 0 : this.#at + offset + this.#data.getUint32(this.#at + offset, true);
  }

  int8(field: number, other = 0): number {
    const offset = this.#offset(field);
    return offset === 0 ? other : this.#data.getInt8(this.#at + offset);
  }

  int32(field: number, other = 0): number {
    const offset = this.#offset(field);
    return offset === 0 ? other : this.#data.getInt32(this.#at + offset, true);
  }

  table(field: number): Table | null {
    const at = this.#reference(field);
    return at === 0 ? null : new Table(this.#data, at);
  }

  tables(field: number): Table[] {
    return this.#list(field, (at) => new Table(this.#data, at + this.#data.getUint32(at, true)));
  }

  ints(field: number): number[] {
    return this.#list(field, (at) => this.#data.getInt32(at, true));
  }

  text(field: number): string {
    return new TextDecoder().decode(this.bytes(field) ?? new Uint8Array());
  }

  bytes(field: number): Uint8Array | null {
    const at = this.#reference(field);
    return at === 0 ? null : new Uint8Array(this.#data.buffer, this.#data.byteOffset + at + 4, this.#data.getUint32(at, true));
  }

  /** Elements of four bytes each. */
  #list<T>(field: number, read: (at: number) => T): T[] {
    const at = this.#reference(field);
    return at === 0 ? [] : Array.from({ length: this.#data.getUint32(at, true) }, (_, i) => read(at + 4 + 4 * i));
  }
}

/** The mark of the format, at byte 4. */
const MARK = 'TFL3';

/** @throws Error when the bytes are no such model */
export function readModel(bytes: Uint8Array): Model {
  if (new TextDecoder().decode(bytes.subarray(4, 8)) !== MARK) throw new Error('This is not a model in TensorFlow Lite’s format');
  const data = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const root = new Table(data, data.getUint32(0, true));
  // The number of an operation moved from a byte to an int when there were more than 127.
  const codes = root.tables(1).map((code) => ({ code: Math.max(code.int8(0) & 0xff, code.int32(3)), custom: code.text(1) }));
  const buffers = root.tables(4);
  const graph = root.tables(2)[0]!;
  return {
    tensors: graph.tables(0).map((tensor) => {
      const held = buffers[tensor.int32(2)]?.bytes(0);
      return { shape: tensor.ints(0), type: tensor.int8(1), data: held && held.length > 0 ? held : null };
    }),
    steps: graph.tables(3).map((step) => ({
      ...codes[step.int32(0)]!,
      inputs: step.ints(1),
      outputs: step.ints(2),
      options: step.table(4),
      customOptions: step.bytes(5),
    })),
    inputs: graph.ints(1),
    outputs: graph.ints(2),
  };
}
