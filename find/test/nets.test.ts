/** Models read and run: the reader against the layout of FlatBuffers, operations and crops against their definitions. */
import * as tf from '@tensorflow/tfjs-core';
import { readFile } from 'node:fs/promises';
import { beforeAll, describe, expect, it } from 'vitest';
import { MODEL_FILES } from '../src/files.ts';
import { cropMatrix, movePoints, readCropOptions, sampleCrop } from '../src/nets/crops.ts';
import { readModel } from '../src/nets/model.ts';
import { Net } from '../src/nets/net.ts';
import { startRuntime } from '../src/nets.ts';

const folder = new URL('../../dist/models/', import.meta.url).pathname;
const bytesOf = async (file: string): Promise<Uint8Array> => new Uint8Array(await readFile(folder + file));

beforeAll(() => startRuntime(folder));

describe('models', () => {
  it('are read as what their own documentation says they take and give', async () => {
    const shapes = async (file: string): Promise<[readonly number[], (readonly number[])[]]> => {
      const { tensors, inputs, outputs } = readModel(await bytesOf(file));
      return [tensors[inputs[0]!]!.shape, outputs.map((i) => tensors[i]!.shape)];
    };
    // Model cards: the detectors have 896 and 2304 anchors of 16 numbers, the mesh 468 points of three; the parser has six classes.
    expect(await shapes(MODEL_FILES.shortRange)).toEqual([
      [1, 128, 128, 3],
      [
        [1, 896, 16],
        [1, 896, 1],
      ],
    ]);
    expect(await shapes(MODEL_FILES.fullRange)).toEqual([
      [1, 192, 192, 3],
      [
        [1, 2304, 16],
        [1, 2304, 1],
      ],
    ]);
    expect((await shapes(MODEL_FILES.mesh))[1][0]!.reduce((a, b) => a * b)).toBe(468 * 3);
    expect(await shapes(MODEL_FILES.classes)).toEqual([[1, 256, 256, 3], [[1, 256, 256, 6]]]);
    expect(await shapes(MODEL_FILES.person)).toEqual([[1, 256, 256, 3], [[1, 256, 256, 1]]]);
    expect(() => readModel(new Uint8Array(64))).toThrow(/no.*model|not a model/i);
  });

  it('run to the same bytes every time, and leave no memory behind', async () => {
    const net = new Net(await bytesOf(MODEL_FILES.person));
    const input = Float32Array.from({ length: 256 * 256 * 3 }, (_, i) => ((i * 7919) % 1000) / 1000);
    const [first] = net.run(input);
    const kept = tf.memory().numTensors;
    const [again] = net.run(input);
    expect(Buffer.compare(Buffer.from(first!.buffer), Buffer.from(again!.buffer))).toBe(0);
    expect(tf.memory().numTensors).toBe(kept);
    expect(first!.every((v) => v >= 0 && v <= 1)).toBe(true);
  });
});

describe('crops about landmarks', () => {
  const options = { left: 0, right: 1, angle: 0, scaleX: 1, scaleY: 1, width: 10, height: 10, held: [0, 1, 2, 3] };

  it('lead from the crop to where it was taken, whatever the turn; and points back with them', () => {
    for (const turn of [0, 0.4, -1.1, 2.5]) {
      const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
      // A square of 20, turned about (50, 40).
      const corners = [
        [-10, -10],
        [10, -10],
        [10, 10],
        [-10, 10],
      ].map(([x, y]) => [50 + x! * cos - y! * sin, 40 + x! * sin + y! * cos, 0]);
      const matrix = cropMatrix(Float32Array.from(corners.flat()), options);
      const back = movePoints(Float32Array.from([0, 0, 10, 0, 10, 10, 0, 10, 5, 5]), matrix);
      const wanted = [...corners.flatMap(([x, y]) => [x!, y!]), 50, 40];
      for (const [i, v] of wanted.entries()) expect(back[i]!).toBeCloseTo(v, 3);
    }
  });

  it('are bilinear, with nothing beside the picture', () => {
    const picture = Float32Array.from({ length: 6 * 5 * 2 }, (_, i) => i);
    const matrix = new Float32Array(16);
    [matrix[0], matrix[5], matrix[3], matrix[7]] = [1, 1, 0.5, 0.25];
    const out = sampleCrop(picture, [1, 5, 6, 2], matrix, 3, 4);
    const at = (x: number, y: number, c: number): number => picture[(y * 6 + x) * 2 + c]!;
    const wanted = (x: number, y: number, c: number): number =>
      0.75 * (0.5 * at(x, y, c) + 0.5 * at(x + 1, y, c)) + 0.25 * (0.5 * at(x, y + 1, c) + 0.5 * at(x + 1, y + 1, c));
    for (let y = 0; y < 3; y++)
      for (let x = 0; x < 4; x++) for (const c of [0, 1]) expect(out[(y * 4 + x) * 2 + c]!).toBeCloseTo(wanted(x, y, c), 4);
    [matrix[3], matrix[7]] = [-30, 0];
    expect(sampleCrop(picture, [1, 5, 6, 2], matrix, 3, 4).every((v) => v === 0)).toBe(true);
  });

  it('say in the models’ own options about which eye they are', async () => {
    const { steps } = readModel(await bytesOf(MODEL_FILES.mesh));
    const all = steps
      .filter(({ custom }) => custom === 'Landmarks2TransformMatrix')
      .map(({ customOptions }) => readCropOptions(customOptions!));
    expect(all.length).toBeGreaterThan(2);
    for (const { left, right, width, height, held } of all) {
      expect([left < 468, right < 468, width > 0, height > 0, held.every((n) => n < 468)]).toEqual([true, true, true, true, true]);
      expect(left).not.toBe(right);
    }
  });
});
