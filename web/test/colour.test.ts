/** Colours as they are typed and chosen by eye. */
import { spaces, srgb, type Colour } from '@umbo/core/colour';
import { converter } from 'culori';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { hexOf } from '../src/ui/hexOf';
import { colourOfText } from '../src/bench/colour/colourOfText';
import { colourPlanes } from '../src/bench/colour/colourPlanes';

const hex = (text: string): string | null => {
  const colour = colourOfText(text, srgb);
  return colour && hexOf(colour, srgb);
};

it('takes colours as CSS Color 4 writes them', () => {
  // The examples of green in CSS Color 4, sections 4.2.2, 7, 8, 9.3 and 9.4 (W3C), all of which are #008000.
  for (const green of [
    'rgb(0 50.2% 0)',
    'rgb(0, 128, 0)',
    'hsl(120deg 100% 25%)',
    'hwb(120 0% 49.8039%)',
    'lab(46.2775% -47.5621 48.5837)',
    'lch(46.2775% 67.9892 134.3912)',
    'oklab(51.975% -0.1403 0.10768)',
    'oklch(51.975% 0.17686 142.495)',
    '#008000',
    '008000',
    ' #080 '.replace('080', '008000'),
  ])
    expect(hex(green), green).toBe('#008000');
  expect(hex('rebeccapurple')).toBe('#663399');
  for (const none of ['', 'oklch(', 'twelve', '#12345', 'rgb(a b c)']) expect(colourOfText(none, srgb), none).toBeNull();
});

it('what is beyond sRGB keeps its lightness and hue and gives up chroma', () => {
  const oklch = converter('oklch');
  const [r, g, b] = colourOfText('oklch(70% 0.4 150)', srgb)!;
  const { l, c, h } = oklch({ mode: 'rgb', r, g, b });
  expect([l, h]).toEqual([expect.closeTo(0.7, 2), expect.closeTo(150, 0)]);
  expect(c).toBeLessThan(0.3);
});

it('lays colours out so that each is found where it was put, as culori has OKLCh and HSV', () => {
  const [toOklch, toHsv] = [converter('oklch'), converter('hsv')];
  const share = fc.double({ min: 0.02, max: 0.98, noNaN: true });
  fc.assert(
    fc.property(share, share, share, (r, g, b) => {
      const colour: Colour = [r, g, b];
      for (const plane of colourPlanes.srgb) {
        const back = plane.write(plane.read(colour));
        for (const [i, v] of colour.entries()) expect(back[i], plane.name).toBeCloseTo(v, 4);
      }
      const [oklch, hsb] = colourPlanes.srgb.map((plane) => plane.read(colour));
      const { l, c } = toOklch({ mode: 'rgb', r, g, b });
      expect([oklch![0] * 0.33, oklch![1]]).toEqual([expect.closeTo(Math.min(c, 0.33), 3), expect.closeTo(l, 3)]);
      const { s, v } = toHsv({ mode: 'rgb', r, g, b });
      expect([hsb![0], hsb![1]]).toEqual([expect.closeTo(s, 5), expect.closeTo(v, 5)]);
    }),
    { numRuns: 300 },
  );
});

it('hatches what sRGB does not have, and only that', () => {
  const [oklch] = colourPlanes.srgb;
  const inSrgb = (l: number, c: number, h: number): boolean => {
    const { r, g, b } = converter('rgb')({ mode: 'oklch', l, c, h });
    return [r, g, b].every((v) => v >= -2e-4 && v <= 1 + 2e-4);
  };
  let [agree, n] = [0, 0];
  for (let x = 0; x <= 1; x += 0.05)
    for (let y = 0; y <= 1; y += 0.05)
      for (let z = 0; z < 1; z += 0.1) {
        n++;
        if (oklch!.exact([x, y, z], new Float64Array(3)) === inSrgb(y, x * 0.33, z * 360)) agree++;
      }
  expect(agree / n).toBeGreaterThan(0.998);
});

it('a colour that is typed is the same in every working space, and is written back in digits where sRGB holds it', () => {
  for (const space of Object.values(spaces))
    for (const text of ['#c08030', '#00ff00', '#123456']) {
      const colour = colourOfText(text, space)!;
      expect(hexOf(colour, space)).toBe(text.toUpperCase());
      const { r, g, b } = converter('rgb')(`color(${space.id} ${colour.join(' ')})`)!;
      expect(hexOf([r, g, b], srgb)).toBe(text.toUpperCase());
    }
  // The green of Display P3 is that in its own space, and beyond sRGB.
  expect(colourOfText('color(display-p3 0 1 0)', spaces['display-p3'])!.map((v) => Math.round(v * 1e4) / 1e4)).toEqual([0, 1, 0]);
});
