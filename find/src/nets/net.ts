/** Runs models on tfjs-core's kernels: the same code in a browser's worker and in Node, without evaluating text and without a network. */
import * as tf from '@tensorflow/tfjs-core';
import { cropMatrix, movePoints, readCropOptions, sampleCrop } from './crops.ts';
import { FLOAT16, FLOAT32, INT32, readModel, type Model, type ModelTensor, type Step, type Table } from './model.ts';

type Tensor = tf.Tensor;

/** Builtin operations by their number in the schema of the format. */
const ADD = 0;
const AVERAGE_POOL_2D = 1;
const CONCATENATION = 2;
const CONV_2D = 3;
const DEPTHWISE_CONV_2D = 4;
const DEQUANTIZE = 6;
const FULLY_CONNECTED = 9;
const LOGISTIC = 14;
const MAX_POOL_2D = 17;
const MUL = 18;
const RELU = 19;
const RELU6 = 21;
const RESHAPE = 22;
const RESIZE_BILINEAR = 23;
const SOFTMAX = 25;
const CUSTOM = 32;
const PAD = 34;
const TRANSPOSE = 39;
const MEAN = 40;
const STRIDED_SLICE = 45;
const PRELU = 54;
const TRANSPOSE_CONV = 67;
const SUM = 74;
const RESIZE_NEAREST = 97;
const HARD_SWISH = 117;
const DENSIFY = 121;

/** The activations that a step may end with, by their number. */
const ACTIVATIONS = [undefined, 'relu', undefined, 'relu6'] as const;
const activate = (x: Tensor, activation: number): Tensor => (activation === 1 ? tf.relu(x) : activation === 3 ? tf.relu6(x) : x);

let halves: Float32Array | null = null;
/** Numbers of 16 bits (IEEE 754 binary16) by their bits: a table, with which a model loads in a tenth of the time. */
function halfTable(): Float32Array {
  halves ??= Float32Array.from({ length: 65536 }, (_, bits) => {
    const [sign, exponent, fraction] = [bits & 0x8000 ? -1 : 1, (bits >> 10) & 31, bits & 1023];
    if (exponent === 0) return sign * fraction * 2 ** -24;
    return exponent === 31 ? (fraction ? NaN : sign * Infinity) : sign * (1 + fraction / 1024) * 2 ** (exponent - 15);
  });
  return halves;
}

/** The numbers of a constant; null for a type that no model here computes with. */
function numbersOf({ type, data }: ModelTensor): Float32Array | Int32Array | null {
  const buffer = data!.slice().buffer;
  if (type === INT32) return new Int32Array(buffer);
  if (type === FLOAT32) return new Float32Array(buffer);
  if (type !== FLOAT16) return null;
  const table = halfTable();
  const halves = new Uint16Array(buffer);
  const numbers = new Float32Array(halves.length);
  // Millions of them: mapped by `from`, they take twenty times as long.
  for (let i = 0; i < numbers.length; i++) numbers[i] = table[halves[i]!]!;
  return numbers;
}

/** The order in which tfjs wants the dimensions of a filter, where it is another than the format's. */
function filterOrders({ steps }: Model): Map<number, number[]> {
  const orders = new Map<number, number[]>();
  for (const { code, custom, inputs } of steps) {
    if (code === CONV_2D || code === DEPTHWISE_CONV_2D) orders.set(inputs[1]!, [1, 2, 3, 0]);
    if (code === TRANSPOSE_CONV || custom === 'Convolution2DTransposeBias') orders.set(inputs[1]!, [1, 2, 0, 3]);
  }
  return orders;
}

/** A model that is ready to run. */
export class Net {
  readonly #model: Model;
  readonly #constants = new Map<number, Tensor>();
  /** Whole numbers that say how a step is done. */
  readonly #lists = new Map<number, number[]>();
  /** How many steps use a tensor. */
  readonly #uses: readonly number[];

  /** The backend must be ready; see `startRuntime`. @throws Error when the bytes are no model */
  constructor(bytes: Uint8Array) {
    const model = (this.#model = readModel(bytes));
    const orders = filterOrders(model);
    // A constant of fewer bits is another tensor than what is made of it.
    const madeOf = new Map<number, number>();
    for (const { code, inputs, outputs } of model.steps) if (code === DEQUANTIZE || code === DENSIFY) madeOf.set(outputs[0]!, inputs[0]!);
    for (const [i] of model.tensors.entries()) {
      let source = i;
      while (madeOf.has(source)) source = madeOf.get(source)!;
      const tensor = model.tensors[source]!;
      if (tensor.data === null || (source === i && tensor.type === FLOAT16)) continue;
      const numbers = numbersOf(tensor);
      if (numbers instanceof Int32Array) {
        this.#lists.set(i, [...numbers]);
        this.#constants.set(i, tf.tensor(numbers, [...tensor.shape], 'int32'));
      } else if (numbers) {
        const made = tf.tensor(numbers, [...tensor.shape], 'float32');
        const order = orders.get(i);
        this.#constants.set(i, order ? tf.keep(tf.transpose(made, order)) : made);
        if (order) made.dispose();
      }
    }
    const uses = new Array<number>(model.tensors.length).fill(0);
    for (const i of [...model.steps.flatMap(({ inputs }) => inputs), ...model.outputs]) if (i >= 0) uses[i]!++;
    this.#uses = uses;
  }

  /** Side of the square pictures that it looks at. */
  get side(): number {
    return this.#model.tensors[this.#model.inputs[0]!]!.shape[1]!;
  }

  /** @returns the numbers of each output */
  run(input: Float32Array): Float32Array[] {
    const { steps, inputs, outputs, tensors } = this.#model;
    const values = new Map<number, Tensor>();
    const left = [...this.#uses];
    const get = (i: number): Tensor => (this.#constants.get(i) ?? values.get(i))!;
    values.set(inputs[0]!, tf.tensor(input, [...tensors[inputs[0]!]!.shape], 'float32'));
    for (const step of steps) {
      const output = step.outputs[0]!;
      if (this.#constants.has(output)) continue;
      values.set(
        output,
        tf.tidy(() => this.#result(step, get, [...tensors[output]!.shape])),
      );
      for (const i of step.inputs)
        if (i >= 0 && --left[i]! === 0 && values.has(i)) {
          values.get(i)!.dispose();
          values.delete(i);
        }
    }
    const results = outputs.map((i) => values.get(i)!.dataSync<'float32'>().slice());
    for (const value of values.values()) value.dispose();
    return results;
  }

  #result(step: Step, get: (i: number) => Tensor, shape: number[]): Tensor {
    const { code, inputs } = step;
    const x = get(inputs[0]!);
    const input = (n: number): Tensor => get(inputs[n]!);
    const list = (n: number): number[] => this.#lists.get(inputs[n]!)!;
    const options = step.options as Table;
    const padding = (): 'valid' | 'same' => (options.int8(0) ? 'valid' : 'same');
    switch (code) {
      case CONV_2D:
        return tf.fused.conv2d({
          x: x as tf.Tensor4D,
          filter: input(1) as tf.Tensor4D,
          strides: [options.int32(2), options.int32(1)],
          pad: padding(),
          dilations: [options.int32(5, 1), options.int32(4, 1)],
          bias: input(2),
          activation: ACTIVATIONS[options.int8(3)] as 'relu',
        });
      case DEPTHWISE_CONV_2D:
        return tf.fused.depthwiseConv2d({
          x: x as tf.Tensor4D,
          filter: input(1) as tf.Tensor4D,
          strides: [options.int32(2), options.int32(1)],
          pad: padding(),
          dilations: [options.int32(6, 1), options.int32(5, 1)],
          bias: input(2),
          activation: ACTIVATIONS[options.int8(4)] as 'relu',
        });
      case ADD:
        return activate(tf.add(x, input(1)), step.options?.int8(0) ?? 0);
      case MUL:
        return activate(tf.mul(x, input(1)), step.options?.int8(0) ?? 0);
      case RELU:
        return tf.relu(x);
      case RELU6:
        return tf.relu6(x);
      case LOGISTIC:
        return tf.sigmoid(x);
      case HARD_SWISH:
        return tf.mul(x, tf.mul(tf.relu6(tf.add(x, 3)), 1 / 6));
      case PRELU:
        return tf.prelu(x, input(1));
      case RESHAPE:
        return tf.reshape(x, shape);
      case TRANSPOSE:
        return tf.transpose(x, list(1));
      case SOFTMAX:
        return tf.softmax(x);
      case SUM:
        return tf.reshape(tf.sum(x, list(1)), shape);
      case MEAN:
        return tf.reshape(tf.mean(x, list(1)), shape);
      case CONCATENATION:
        return tf.concat(inputs.map(get), options.int32(0) < 0 ? x.rank + options.int32(0) : options.int32(0));
      case PAD: {
        const by = list(1);
        return tf.pad(
          x,
          x.shape.map((_, k) => [by[2 * k]!, by[2 * k + 1]!] as [number, number]),
        );
      }
      case MAX_POOL_2D:
        return tf.maxPool(x as tf.Tensor4D, [options.int32(4), options.int32(3)], [options.int32(2), options.int32(1)], padding());
      case AVERAGE_POOL_2D: {
        const size: [number, number] = [options.int32(4), options.int32(3)];
        if (size[0] === x.shape[1] && size[1] === x.shape[2]) return tf.mean(x, [1, 2], true);
        return tf.avgPool(x as tf.Tensor4D, size, [options.int32(2), options.int32(1)], padding());
      }
      case FULLY_CONNECTED: {
        const weights = input(1) as tf.Tensor2D;
        const flat = tf.reshape(x, [-1, weights.shape[1]]);
        return tf.reshape(activate(tf.add(tf.matMul(flat, weights, false, true), input(2)), options.int8(0)), shape);
      }
      case RESIZE_BILINEAR:
        return tf.image.resizeBilinear(x as tf.Tensor4D, [shape[1]!, shape[2]!], options.int8(2) !== 0, options.int8(3) !== 0);
      case RESIZE_NEAREST:
        return tf.image.resizeNearestNeighbor(x as tf.Tensor4D, [shape[1]!, shape[2]!], options.int8(0) !== 0, options.int8(1) !== 0);
      case TRANSPOSE_CONV: {
        const made = transposed(input(2), input(1), shape, [options.int32(2), options.int32(1)], padding());
        return activate((inputs[3] ?? -1) >= 0 ? tf.add(made, input(3)) : made, options.int8(3));
      }
      case STRIDED_SLICE:
        return tf.slice(x, list(1), shape);
      case CUSTOM:
        return custom(step, get, shape);
    }
    throw new Error(`A model has an operation, number ${code}, that is not known`);
  }
}

const transposed = (x: Tensor, filter: Tensor, shape: number[], strides: [number, number], padding: 'valid' | 'same'): Tensor =>
  tf.conv2dTranspose(x as tf.Tensor4D, filter as tf.Tensor4D, shape as [number, number, number, number], strides, padding);

/** Operations that the format does not have itself. */
function custom({ custom: name, inputs, customOptions }: Step, get: (i: number) => Tensor, shape: number[]): Tensor {
  const numbers = (n: number): Float32Array => get(inputs[n]!).dataSync<'float32'>();
  switch (name) {
    case 'Convolution2DTransposeBias': {
      const options = new DataView(customOptions!.buffer, customOptions!.byteOffset);
      const padding = options.getInt32(0, true) === 1 ? 'same' : 'valid';
      const made = transposed(get(inputs[0]!), get(inputs[1]!), shape, [options.getInt32(8, true), options.getInt32(4, true)], padding);
      return tf.add(made, get(inputs[2]!));
    }
    case 'Landmarks2TransformMatrix':
      return tf.tensor(cropMatrix(numbers(0), readCropOptions(customOptions!)), [1, 4, 4]);
    case 'TransformTensorBilinear':
      return tf.tensor(sampleCrop(numbers(0), get(inputs[0]!).shape, numbers(1), shape[1]!, shape[2]!), shape);
    case 'TransformLandmarks':
      return tf.tensor(movePoints(numbers(0), numbers(1)), shape);
  }
  throw new Error(`A model has the operation “${name}”, which is not known`);
}
