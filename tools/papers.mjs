/**
 * Makes the demo's two printing profiles, of papers and inks that do not exist: `node tools/papers.mjs` writes them into demo/profiles.
 * The model is that of J. A. C. Yule and W. J. Nielsen (1951) over the sixteen primaries of H. E. J. Neugebauer (1937), with tone value
 * increase; the file that of ICC.1:2001-04 (version 2), with tables of 16 bits (section 6.5.7).
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './prepare.mjs';

/** Lab D50 of paper and solid inks, how much dots grow at their middle, and the exponent for light that spreads in paper. All invented. */
const PAPERS = {
  'umbo-coated': { name: 'Umbo made-up coated', paper: [95.5, 0.4, -1.8], inks: [[56, -36, -49], [49, 73, -4], [89, -5, 91], [16, 0, 0]], gain: 0.14, spread: 1.7 }, // prettier-ignore
  'umbo-uncoated': { name: 'Umbo made-up uncoated', paper: [93, 1.5, -5.5], inks: [[60, -26, -43], [56, 60, -2], [88, -4, 72], [31, 1, 2]], gain: 0.22, spread: 1.9 }, // prettier-ignore
};
const D50 = [0.9642, 1, 0.8249];
/** Points along the sides of the tables: from inks, to inks as they are, and to inks with all colours drawn in. */
const [INK_SIDE, LAB_SIDE, DRAWN_SIDE] = [9, 25, 17];

const toXyz = ([l, a, b]) => {
  const y = (l + 16) / 116;
  return [y + a / 500, y, y - b / 200].map((t, i) => (t ** 3 > 216 / 24389 ? t ** 3 : (116 * t - 16) / (24389 / 27)) * D50[i]);
};
const toLab = (xyz) => {
  const [x, y, z] = xyz.map((v, i) => v / D50[i]).map((t) => (t > 216 / 24389 ? Math.cbrt(t) : ((24389 / 27) * t + 16) / 116));
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
};

/** Lab of amounts of ink, with the paper as white. */
function press({ paper, inks, gain, spread }) {
  const white = toXyz(paper);
  const solids = inks.map(toXyz);
  const primaries = Array.from({ length: 16 }, (_, set) =>
    white.map((w, c) => solids.reduce((left, solid, i) => (set & (1 << i) ? (left * solid[c]) / w : left), w) ** (1 / spread)),
  );
  return (amounts) => {
    const covered = amounts.map((v) => v + 4 * gain * v * (1 - v));
    const sum = [0, 0, 0];
    for (const [set, primary] of primaries.entries()) {
      const weight = covered.reduce((w, v, i) => w * (set & (1 << i) ? v : 1 - v), 1);
      for (let c = 0; c < 3; c++) sum[c] += weight * primary[c];
    }
    // The profile connection space is relative to the paper.
    return toLab(sum.map((v, c) => (v ** spread / white[c]) * D50[c]));
  };
}

const held = (v) => Math.min(1, Math.max(0, v));

/** The ink for a colour, or for the nearest that there is. Black takes over towards the dark, as far as the colour stays what it is. */
function inksFor(lab, labOf) {
  const black = 0.85 * held((70 - lab[0]) / 70) ** 1.6;
  return [4, 0.6, 0.05].reduce(
    (x, pull) => nearest(x, (at) => [...labOf(at).map((v, i) => v - lab[i]), pull * (at[3] - black)]),
    [...[0.3, 0.3, 0.3], black],
  );
}

/** Least squares by Levenberg and Marquardt, held within 0..1. */
function nearest(from, costs) {
  const sizeOf = (r) => r.reduce((s, v) => s + v * v, 0);
  let x = from;
  let now = costs(x);
  for (let round = 0, damping = 1; round < 14; round++) {
    const slopes = x.map((_, i) => {
      const h = x[i] > 0.5 ? -1e-3 : 1e-3;
      const moved = costs(x.map((v, k) => (k === i ? v + h : v)));
      return moved.map((v, k) => (v - now[k]) / h);
    });
    // What lies at an end and would go past it stays there.
    const pulls = slopes.map((p) => -p.reduce((s, v, j) => s + v * now[j], 0));
    const free = x.map((v, i) => (v > 0 || pulls[i] > 0) && (v < 1 || pulls[i] < 0));
    const a = slopes.map((p, i) =>
      slopes.map((q, k) => (i !== k ? (free[i] && free[k] ? p.reduce((s, v, j) => s + v * q[j], 0) : 0) : sizeOf(p) + damping * 20)),
    );
    const step = solve(a, pulls.map((v, i) => (free[i] ? v : 0))); // prettier-ignore
    const next = x.map((v, i) => held(v + step[i]));
    const after = costs(next);
    if (sizeOf(after) < sizeOf(now)) {
      [x, now, damping] = [next, after, damping / 4];
    } else damping *= 5;
  }
  return x;
}

function solve(a, b) {
  const m = a.map((row, i) => [...row, b[i]]);
  for (let i = 0; i < m.length; i++)
    for (let k = 0; k < m.length; k++) {
      if (k === i) continue;
      const f = m[k][i] / m[i][i];
      for (let j = i; j <= m.length; j++) m[k][j] -= f * m[i][j];
    }
  return m.map((row, i) => row[m.length] / row[i]);
}

const ascii = (text) => Buffer.from(text, 'latin1');
const u16 = (values) => { const b = Buffer.alloc(values.length * 2); values.forEach((v, i) => b.writeUInt16BE(Math.min(65535, Math.max(0, Math.round(v))), i * 2)); return b; }; // prettier-ignore
const u32 = (...values) => { const b = Buffer.alloc(values.length * 4); values.forEach((v, i) => b.writeInt32BE(v, i * 4)); return b; }; // prettier-ignore
const fixed = (...values) => u32(...values.map((v) => Math.round(v * 65536)));

/** A lut16Type whose curves do nothing. @param values of the table, 0..65535 each, the first channel changing least often */
function table(inputs, outputs, side, values) {
  const straight = (n) => u16(Array.from({ length: n }, () => [0, 65535]).flat());
  const head = Buffer.from([inputs, outputs, side, 0]);
  return Buffer.concat([ascii('mft2'), u32(0), head, fixed(1, 0, 0, 0, 1, 0, 0, 0, 1), u16([2, 2]), straight(inputs), u16(values), straight(outputs)]); // prettier-ignore
}

/** Places of a lattice, the first coordinate changing least often. */
const lattice = (inputs, side) => Array.from({ length: side ** inputs }, (_, i) => Array.from({ length: inputs }, (_, c) => (Math.floor(i / side ** (inputs - 1 - c)) % side) / (side - 1))); // prettier-ignore
/** Lab as lut16Type has it. */
const codes = ([l, a, b]) => [(l / 100) * 0xff00, (a + 128) * 256, (b + 128) * 256];

function profile(paper) {
  const labOf = press(paper);
  const darkest = labOf([1, 1, 1, 1])[0];
  const forward = table(4, 3, INK_SIDE, lattice(4, INK_SIDE).flatMap((inks) => codes(labOf(inks)))); // prettier-ignore
  // The codes of Lab go a little past what it can be.
  const place = ([l, a, b]) => [l * (65535 / 0xff00) * 100, a * (65535 / 256) - 128, b * (65535 / 256) - 128];
  const back = (side, drawn) =>
    table(3, 4, side, lattice(3, side).flatMap((at) => inksFor(drawn(place(at)), labOf).map((v) => v * 65535))); // prettier-ignore
  const colorimetric = back(LAB_SIDE, (lab) => lab);
  const perceptual = back(DRAWN_SIDE, ([l, a, b]) => [darkest + (l * (100 - darkest)) / 100, a * 0.92, b * 0.92]);
  const text = ascii(`${paper.name}\0`);
  const description = Buffer.concat([ascii('desc'), u32(0, text.length), text, Buffer.alloc(4 + 4 + 2 + 1 + 67)]);
  const tags = [
    ['desc', description],
    ['cprt', Buffer.concat([ascii('text'), u32(0), ascii('CC0\0')])],
    ['wtpt', Buffer.concat([ascii('XYZ '), u32(0), fixed(...toXyz(paper.paper))])],
    ...['A2B0', 'A2B1', 'A2B2'].map((tag) => [tag, forward]),
    ['B2A0', perceptual],
    ...['B2A1', 'B2A2'].map((tag) => [tag, colorimetric]),
  ];
  let end = 128 + 4 + 12 * tags.length;
  const places = new Map();
  const blocks = [];
  const index = tags.map(([tag, data]) => {
    if (!places.has(data)) {
      places.set(data, end);
      blocks.push(data, Buffer.alloc(-data.length & 3));
      end += data.length + (-data.length & 3);
    }
    return Buffer.concat([ascii(tag), u32(places.get(data), data.length)]);
  });
  const header = Buffer.alloc(128);
  header.writeUInt32BE(end, 0);
  header.writeUInt32BE(0x02400000, 8);
  header.write('prtrCMYKLab ', 12, 'latin1');
  [2026, 1, 1].forEach((v, i) => header.writeUInt16BE(v, 24 + 2 * i));
  header.write('acsp', 36, 'latin1');
  fixed(...D50).copy(header, 68);
  return Buffer.concat([header, u32(tags.length), ...index, ...blocks]);
}

const folder = join(root, 'demo', 'profiles');
mkdirSync(folder, { recursive: true });
for (const [file, paper] of Object.entries(PAPERS)) writeFileSync(join(folder, `${file}.icc`), profile(paper));
