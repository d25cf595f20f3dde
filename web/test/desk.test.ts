/** What the cards and the desk of the bench calculate before anything is drawn. */
import { toneShare } from '@umbo/core/blend';
import { srgb, rgbToOklch, type Colour } from '@umbo/core/colour';
import { adjustmentLayer, ALL_TONES, colourwayLayer, groupLayer, sourceLayer, type Layer } from '@umbo/core/document';
import { converter, formatHex, parse } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cardsOf } from '../src/bench/state/card';
import { colourModels, colourOfHex } from '../src/bench/colour/colourModels';
import { hexOf } from '../src/ui/hexOf';
import { paletteCsv, paletteJson, readPalette } from '../src/bench/colour/paletteFiles';
import { sampleArea } from '../src/bench/state/samples';
import { keysOf } from '../src/bench/shortcuts';
import { moveToneEnd, TONE_ENDS, toneEnds } from '../src/bench/ranges/toneRange';

describe('cards', () => {
  const ALL = { folded: [], selection: [] };
  const layer = (id: string, more: Partial<Layer> = {}): Layer => ({ ...adjustmentLayer(id, 'hueSaturation', id.toUpperCase()), ...more });
  const withLayers = (layer_: Layer, layers: Layer[]): Layer => ({ ...layer_, what: { ...layer_.what, layers } as Layer['what'] });

  it('stand in one row, under brackets that begin at the group and end at its last layer', () => {
    const inner = withLayers(groupLayer('i', 'I'), [layer('b'), layer('c')]);
    const cards = cardsOf([layer('a'), withLayers(groupLayer('g', 'G'), [inner]), groupLayer('e', 'Empty'), layer('d')], ALL, srgb);
    expect(cards.map(({ id }) => id).join('')).toBe('agibced');
    const brackets = (id: string): string =>
      cards
        .find((card) => card.id === id)!
        .brackets.map(({ begins, ends }) => `${begins ? '[' : '-'}${ends ? ']' : '-'}`)
        .join(' ');
    expect(['a', 'g', 'i', 'b', 'c', 'e', 'd'].map(brackets)).toEqual(['', '[-', '-- [-', '-- --', '-] -]', '[]', '']);
    // The picture after the last layer of groups is the picture after the outermost of them.
    expect(cards.map(({ after }) => after)).toEqual(['a', null, null, 'b', 'g', 'e', 'd']);
  });

  it('of a folded group stand for all of it, unless a selected layer is in it', () => {
    const inner = withLayers(groupLayer('i', 'I'), [layer('b'), layer('c')]);
    const layers = [layer('a'), withLayers(groupLayer('g', 'G'), [inner, layer('d')]), groupLayer('e', 'Empty')];
    const row = (folded: string[], ...selection: string[]): string =>
      cardsOf(layers, { folded, selection }, srgb)
        .map((card) => card.id + (card.folded ? card.inside : ''))
        .join('');
    expect(row(['g', 'e'], 'a')).toBe('ag4e');
    expect(row(['g', 'i'], 'd')).toBe('agi2de');
    expect(row(['i'], 'g')).toBe('agi2de');
    expect(row(['g', 'i'], 'b', 'a')).toBe('agibcde');
    const [, group] = cardsOf(layers, { folded: ['g'], selection: [] }, srgb);
    expect(group).toMatchObject({ brackets: [{ begins: true, ends: true }], after: 'g' });
  });

  it('say what a layer is: switched, clipped, noted, linked, its colour, and whether an alternative shows', () => {
    const fill = sourceLayer('f', 'fill', 'F', { width: 9, height: 9 });
    if (fill.what.kind === 'fill') fill.what.settings.colour = [1, 0.5, 0];
    const linked = layer('l', { clip: true, note: 'ask' });
    linked.where = { ...linked.where, link: 'f' };
    const set = withLayers(colourwayLayer('w', 'W', 'q'), [layer('p'), layer('q')]);
    const cards = new Map(cardsOf([fill, linked, set], ALL, srgb).map((card) => [card.id, card]));
    expect(cards.get('f')).toMatchObject({ colours: ['rgb(255 128 0)'], everywhere: true, shown: null });
    expect(cards.get('l')).toMatchObject({ clip: true, note: 'ask', everywhere: false, colours: [] });
    expect([cards.get('w')!.kind, cards.get('p')!.shown, cards.get('q')!.shown]).toEqual(['colourways', false, true]);
  });
});

describe('colours in numbers', () => {
  const unit = fc.integer({ min: 0, max: 65535 }).map((v) => v / 65535);
  const colour = fc.tuple(unit, unit, unit) as fc.Arbitrary<Colour>;

  it('of every model are read and written back, and are those of culori', () => {
    const [hsl, oklch] = [converter('hsl'), converter('oklch')];
    fc.assert(
      fc.property(colour, (rgb) => {
        for (const model of colourModels.srgb) {
          const back = model.write(model.read(rgb));
          for (let c = 0; c < 3; c++) expect(back[c], model.id).toBeCloseTo(rgb[c]!, 3);
        }
        const css = { mode: 'rgb' as const, r: rgb[0], g: rgb[1], b: rgb[2] };
        const [, h, l] = [colourModels.srgb[1]!.read(rgb), hsl(css), oklch(css)];
        expect(colourModels.srgb[1]!.read(rgb)[2]).toBeCloseTo(h.l * 100, 6);
        expect(colourModels.srgb[1]!.read(rgb)[1]).toBeCloseTo(h.s * 100, 6);
        expect(colourModels.srgb[2]!.read(rgb)[0]).toBeCloseTo(l.l * 100, 3);
        expect(colourModels.srgb[2]!.read(rgb)[1]).toBeCloseTo(l.c, 4);
      }),
    );
  });

  it('that sRGB does not have give up chroma, not lightness or hue', () => {
    const model = colourModels.srgb[2]!;
    fc.assert(
      fc.property(
        fc.integer({ min: 10, max: 95 }),
        fc.double({ min: 0.2, max: 0.4, noNaN: true }),
        fc.integer({ min: 0, max: 359 }),
        (l, c, h) => {
          const rgb = model.write([l, c, h]);
          expect(rgb.every((v) => v >= 0 && v <= 1)).toBe(true);
          const got = rgbToOklch(srgb, ...rgb);
          expect(got.l).toBeCloseTo(l / 100, 2);
          expect(got.c).toBeLessThan(c + 0.001);
          if (got.c > 0.02) expect(Math.abs(((got.h - h + 540) % 360) - 180)).toBeLessThan(1);
        },
      ),
    );
  });

  it('in hexadecimal digits are those of CSS', () => {
    for (const text of ['#c08030', '#FFF', '0a0b0c', '#000000']) {
      const wanted = parse(text.startsWith('#') ? text : `#${text}`)!;
      expect(hexOf(colourOfHex(text)!, srgb)).toBe(formatHex(wanted).toUpperCase());
    }
    for (const text of ['', '#12', 'red', '#1234567', '#gg0000']) expect(colourOfHex(text), text).toBeNull();
  });
});

describe('tone limits by hand', () => {
  it('stay in order whatever handle goes where, and let in what they show', () => {
    const percent = fc.integer({ min: 0, max: 100 });
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.constantFrom(...TONE_ENDS), percent), { maxLength: 8 }), (moves) => {
        let limits = ALL_TONES;
        for (const [end, at] of moves) {
          limits = moveToneEnd(limits, end, at);
          expect(toneEnds(limits)[TONE_ENDS.indexOf(end)]).toBe(at);
          expect(toneEnds(limits)).toEqual([...toneEnds(limits)].sort((a, b) => a - b));
        }
        expect(toneShare(limits, (limits.low[1] + limits.high[0]) / 2)).toBe(1);
      }),
    );
  });
});

describe('samples', () => {
  it('are squares about a place or the area between two, within the photograph', () => {
    const photograph = { width: 100, height: 80 };
    expect(sampleArea('1', [5.7, 9.2], [5.7, 9.2], photograph)).toEqual({ x: 5, y: 9, width: 1, height: 1 });
    expect(sampleArea('5', [50, 40], [50, 40], photograph)).toEqual({ x: 48, y: 38, width: 5, height: 5 });
    expect(sampleArea('31', [0, 79], [0, 79], photograph)).toEqual({ x: 0, y: 64, width: 16, height: 16 });
    expect(sampleArea('area', [30, 60], [10, 20], photograph)).toEqual({ x: 10, y: 20, width: 21, height: 41 });
    const outside = sampleArea('5', [-40, 200], [-40, 200], photograph);
    expect(outside.width < 1 || outside.height < 1).toBe(true);
  });
});

describe('palettes as files', () => {
  const palette = {
    name: 'Glazes',
    swatches: [
      { name: 'Sea, deep', colour: [0.1, 0.4, 0.5] as Colour },
      { name: '"Kiln" =1+1', colour: [1, 0.25, 0] as Colour },
      { name: '=SUM(A1)', colour: [0, 0, 0] as Colour },
    ],
  };

  it('come back as they went: JSON to the last digit, CSV to a hundredth of a level', () => {
    expect(readPalette('other.json', paletteJson(palette))).toEqual(palette);
    const csv = readPalette('Glazes.csv', paletteCsv(palette));
    expect(csv.name).toBe('Glazes');
    expect(csv.swatches.map(({ name }) => name)).toEqual(palette.swatches.map(({ name }) => name));
    for (const [i, { colour }] of csv.swatches.entries())
      colour.forEach((v, c) => expect(v).toBeCloseTo(palette.swatches[i]!.colour[c]!, 4));
    expect(paletteCsv(palette).split('\r\n')[0]).toBe('name,red,green,blue');
    expect(paletteCsv(palette)).toContain(`"'=SUM(A1)"`); // no formula for a spreadsheet
  });

  it('are read from other hands: hexadecimal columns, lists, windows line ends', () => {
    expect(readPalette('a.csv', 'Name,Hex\r\nRust,#b7410e\r\n\r\n').swatches).toEqual([{ name: 'Rust', colour: colourOfHex('#b7410e') }]);
    expect(readPalette('b.json', '[{"colour":"#fff"}]')).toEqual({ name: 'b', swatches: [{ name: '#FFFFFF', colour: [1, 1, 1] }] });
  });

  it('that hold no colours are refused in a sentence', () => {
    for (const [text, words] of [
      ['', /first line/],
      ['a,b\n1,2', /first line/],
      ['name,red,green,blue\nx,300,0,0', /Line 2/],
      ['name,red,green,blue\n', /no colour/],
      ['{"swatches":[{"name":"x","colour":[1,2]}]}', /Swatch 1/],
      ['{"other":1}', /no list/],
      ['{', /not JSON/],
      [JSON.stringify(Array.from({ length: 1001 }, () => ({ colour: '#000' }))), /1000/],
    ] as const)
      expect(() => readPalette('x', text), text).toThrow(words);
  });
});

it('keys are named by what is printed on them where that is Latin, else by their place: French digits, Cyrillic letters', () => {
  const press = (key: string, code: string, more: object = {}): string =>
    keysOf({ key, code, shiftKey: false, ctrlKey: false, metaKey: false, ...more } as KeyboardEvent);
  expect(press('a', 'KeyQ')).toBe('a'); // AZERTY
  expect(press('é', 'Digit2')).toBe('2');
  expect(press('т', 'KeyN')).toBe('n');
  expect(press('Т', 'KeyN', { shiftKey: true })).toBe('shift+n');
  expect(press('я', 'KeyZ', { ctrlKey: true })).toBe('mod+z');
  expect([press('?', 'Slash', { shiftKey: true }), press('+', 'BracketRight'), press('Delete', 'Delete')]).toEqual(['?', '+', 'delete']);
});
