/** The state of a bench, slice by slice, with an engine and a keeper that only take notes. */
import { adjustmentLayer, after, colourwayLayer, everywhere, findLayer, groupLayer, onLayer, patch, type Layer } from '@umbo/core/document';
import { maskPartKind, type BrushPart, type Mask } from '@umbo/core/mask';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { historyLines } from '../src/bench/side/historyLines';
import { outlined } from '../src/bench/state/health';
import { hiddenBecause } from '../src/bench/state/hidden';
import { keepPlace, keptPlace, neighbours } from '../src/bench/state/neighbours';
import { measureInto } from '../src/bench/state/measuring';
import { strokeRecipe, strokeTarget } from '../src/bench/state/strokes';
import { first, open, photograph, shoot } from './world';

const opacity = (id: string, value: number) => onLayer(id, ({ how }) => void (how.opacity = value));
const part = (id: string) => ({ ...maskPartKind('hueRange').create(id, 'add', photograph) });

describe('the edit', () => {
  it('is shown by the engine as the bench holds it, whatever is previewed, committed, undone and followed', async () => {
    const share = fc.integer({ min: 0, max: 100 }).map((v) => v / 100);
    const layer = fc.constantFrom('a', 'b', 'p');
    const act = fc.oneof(
      fc.tuple(fc.constant('preview' as const), layer, share),
      fc.tuple(fc.constant('commit' as const), layer, share),
      fc.tuple(fc.constant('cancel' as const), layer, share),
      fc.tuple(fc.constant('go' as const), layer, share),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(act, { maxLength: 25 }), async (acts) => {
        const { now, shown, pushed, close } = open();
        for (const [what, id, value] of acts) {
          if (what === 'preview') now().preview(opacity(id, value));
          else if (what === 'commit') now().commit('x', opacity(id, value));
          else if (what === 'cancel') now().cancelPreview();
          else await now().go(Math.round(value * now().history.labels.length));
          expect(shown()).toEqual(now().document);
        }
        now().cancelPreview();
        expect(shown()).toEqual(now().committed);
        // What the keeper was given leads from the first state to this one.
        expect(pushed.reduce((document, step) => patch(document, step.patches), first)).toEqual(now().committed);
        close();
      }),
      { numRuns: 60 },
    );
  });

  it('takes over what the keeper found elsewhere, and says why', () => {
    const { now, shown, events } = open();
    const theirs = { ...first, layers: [adjustmentLayer('t', 'exposure', 'Theirs')] };
    const state = { revision: 5, batch: null, position: 0, document: theirs, labels: [] };
    events.follow({ state, steps: [], document: theirs, why: 'newer' });
    expect(shown()).toEqual(theirs);
    expect(now()).toMatchObject({ layerId: 't', selection: ['t'], notice: expect.stringContaining('newest state is shown') as string });
  });
});

describe('the selection', () => {
  it('begins with the last layer, knows the parts of masks, and puts tools of parts away', () => {
    const { now, looks } = open();
    expect(now()).toMatchObject({ layerId: 'p', selection: ['p'], partId: null });
    now().commit(
      'part',
      onLayer('a', ({ where }) => void where.parts.push(part('h'))),
    );
    now().commit(
      'part',
      onLayer('p', ({ where }) => void where.parts.push(part('k'))),
    );
    now().set({ tool: 'catch' });
    now().select('a');
    expect(now()).toMatchObject({ layerId: 'a', partId: 'h', tool: 'move' });
    expect(looks.at(-1)!.layerId).toBe('a');
    now().select('p');
    expect(now().partId).toBeNull(); // the strokes of its own come first
  });

  it('of several keeps the one in work among them, and loses what is gone by undo', async () => {
    const { now } = open();
    now().commit('new', (draft) => void draft.layers.push(adjustmentLayer('n', 'exposure', 'N')));
    now().select('n');
    now().selectAll(['n', 'a']);
    expect(now()).toMatchObject({ layerId: 'a', selection: ['n', 'a'] });
    now().setLook({ peek: { solo: 'n', upTo: null }, against: { kind: 'layer', id: 'n' } });
    await now().go(0);
    expect(now().selection).toEqual(['a']);
    expect(now().look).toMatchObject({ peek: { solo: null }, against: { kind: 'photograph' } });
    expect(findLayer(now().committed, 'n')).toBeUndefined();
  });
});

describe('the view', () => {
  it('fits the photograph until it is moved, half of the stage when two are beside each other, and stays within reach', () => {
    const { now, views } = open();
    now().resize(800, 1000);
    expect(now()).toMatchObject({ fitted: true });
    const whole = now().view.zoom;
    now().setLook({ compare: 'beside' });
    expect(now().view.zoom).toBeLessThan(whole);
    now().setLook({ compare: 'after' });
    now().setView({ x: 1e6, y: -1e6, zoom: 1 });
    expect(now().fitted).toBe(false);
    expect(now().view.x).toBeLessThan(800); // some of it is seen
    expect(now().view.y).toBeGreaterThan(-300);
    const { view } = now();
    now().resize(900, 1000);
    expect(now().view).toEqual(view);
    expect(views.at(-1)).toEqual(view);
  });
});

describe('what is asked of the engine', () => {
  it('is answered, and refused once the bench is closed', async () => {
    const { now, asked, close } = open();
    const answer = now().measure({ kind: 'hazeLight', settings: {} }, 'a');
    expect(asked[0]!.ask).toMatchObject({ kind: 'measure', layerId: 'a', task: { kind: 'hazeLight' } });
    asked[0]!.answer([0.1, 0.2, 0.3]);
    expect(await answer).toEqual([0.1, 0.2, 0.3]);
    close();
    await expect(now().askSample({ x: 0, y: 0, width: 1, height: 1 }, null)).rejects.toThrow('closed');
  });

  it('about a mask does not count any more when the mask is another by then', async () => {
    const { now, asked } = open();
    const found = { stray: [], pinholes: [], hard: [], hardShare: 0 };
    now().checkMask('a', 10);
    now().checkMask('b', 10);
    asked[0]!.answer(found);
    await Promise.resolve();
    expect(now().health).toMatchObject({ layerId: 'b', found: null });
    asked[1]!.fail(new Error('no'));
    await new Promise((done) => setTimeout(done));
    expect(now()).toMatchObject({ health: null, notice: 'The mask was not looked over: no' });
  });

  it('of pictures of masks adds to those that are there', () => {
    const { now } = open();
    const small = { width: 1, height: 1, rgba: new Uint8ClampedArray(4) };
    now().hear({ type: 'thumbnails', cards: [], masks: [{ id: 'a', mask: null }], original: small, result: small });
    now().hear({ type: 'thumbnails', cards: [], masks: [{ id: 'b', mask: null }], original: small, result: small });
    expect([...now().thumbnails.masks.keys()]).toEqual(['a', 'b']);
    now().hear({ type: 'failed', message: 'x' });
    now().hear({ type: 'loading', share: 0.5 });
    now().hear({ type: 'painted', seq: 9 });
    expect(now()).toMatchObject({ failure: null, loading: null, painted: 9 });
  });
});

it('any two are compared: a version when it is there, whose absence is said, the stack up to a layer, and the result again', async () => {
  const { now } = open({ '/api/versions/4': { document: first } });
  await now().compareWith('before', 'version 4');
  expect(now().look).toMatchObject({ compare: 'wipe', against: { kind: 'told', key: 'version 4' }, instead: null });
  await now().compareWith('before', 'version 5');
  expect(now()).toMatchObject({ look: { against: { key: 'version 4' } }, notice: 'It is gone.' });
  await now().compareWith('after', 'layer a');
  expect(now().look).toMatchObject({ instead: null, peek: { upTo: 'a' } });
  await now().compareWith('after', 'version 4');
  expect(now().look).toMatchObject({ instead: 'version 4', peek: { upTo: null } });
  now().setLook({ compare: 'after' });
  expect(now().look).toMatchObject({ instead: null, compare: 'after' });
});

it('a bench that is left while something is measured ends once that is written into the edit', async () => {
  const { now, asked, pushed, close, closed } = open();
  const layer = first.layers[1]!;
  const writing = measureInto(now, layer, { kind: 'ends', settings: { clip: 0.1, linked: true } } as never, 'Ends');
  await Promise.resolve();
  expect(now().measuring).toBe(1);
  close();
  expect(closed).toEqual([]);
  asked[0]!.fail(new Error('Nothing is there.'));
  await writing;
  await new Promise((done) => setTimeout(done, 5));
  expect([closed, now().measuring, now().notice, pushed.length]).toEqual([['keeper', 'engine'], 0, 'Nothing is there.', 0]);
  const other = open();
  other.close();
  expect(other.closed).toEqual(['keeper', 'engine']);
});

it('says that it renders when a picture is late, until one is there', () => {
  const { now } = open();
  now().hear({ type: 'late' });
  expect(now().rendering).toBe(true);
  now().hear({ type: 'painted', seq: 1 });
  expect(now().rendering).toBe(false);
});

describe('the history', () => {
  it('is read with the names that layers have now, runs in a line, what was undone apart', () => {
    const labels = ['New layer Fill 1', 'Paint on Fill 1', 'Paint on Fill 1', 'Opacity 40 % on Fill 1', 'Opacity 35 % on Fill 1'];
    const texts = (more: string[], position = 99): string[] => historyLines([...labels, ...more], position).map(({ text }) => text);
    expect(texts([])).toEqual(['New layer Fill 1', 'Paint on Fill 1, 2 strokes', 'Opacity 35 % on Fill 1, 2 times']);
    expect(texts(['Name Skin instead of Fill 1', 'Opacity 20 % on Skin'])).toEqual([
      'New layer Skin',
      'Paint on Skin, 2 strokes',
      'Opacity 35 % on Skin, 2 times',
      'Name Skin',
      'Opacity 20 % on Skin',
    ]);
    // A name that was taken back is none; new layers are no run, whatever number is in their names.
    expect(texts(['Name Skin instead of Fill 1'], 5)[0]).toBe('New layer Fill 1');
    expect(texts(['New layer Fill 2', 'New layer Fill 3']).slice(3)).toEqual(['New layer Fill 2', 'New layer Fill 3']);
    expect(texts([], 2)).toContain('Paint on Fill 1');
    expect(historyLines(labels, 5)[1]).toMatchObject({ from: 1, to: 3 });
  });
});

it('finds near each other are outlined together, the largest first, and not more than can be looked at', () => {
  const box = (x: number, side = 4) => ({ x, y: 0, width: side, height: side });
  // The last one joins the two that it lies between.
  expect(outlined([box(0), box(20), box(100, 30), box(10)], 7)).toEqual({
    shown: [box(100, 30), { x: 0, y: 0, width: 24, height: 4 }],
    rest: 0,
  });
  const many = outlined(
    Array.from({ length: 60 }, (_, i) => box(i * 100, 1 + (i % 50))),
    5,
  );
  expect([many.shown.length, many.rest, many.shown[0]!.width]).toEqual([40, 20, 50]);
});

it('a place is taken along to the next photograph of the shoot: its zoom, and what was in the middle', () => {
  const kept = new Map<string, string>();
  const own = globalThis as { sessionStorage?: unknown };
  own.sessionStorage = {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  };
  const { now } = open();
  const others = [{ id: 3 }, { id: 9 }, { id: 7 }].map((other) => ({ ...photograph, ...other })).sort((a, b) => a.id - b.id);
  expect(neighbours({ photograph: { ...photograph, id: 5 }, shoot: { ...shoot, photographs: others } })).toEqual({ previous: 3, next: 7 });
  const stage = { width: 1000, height: 600 };
  keepPlace({ ...now(), fitted: false, view: { zoom: 2, x: 300, y: 200 } }, stage);
  // The middle of the stage shows (100, 50) of 400 × 300: a quarter to the right, a sixth down.
  const wide = { ...now(), photograph: { ...photograph, width: 800, height: 600 } };
  expect(keptPlace(wide, stage)).toEqual({ zoom: 2, x: 100, y: 100 });
  expect(keptPlace(wide, stage)).toBeNull();
  keepPlace({ ...now(), fitted: true }, stage);
  expect(keptPlace(wide, stage)).toBeNull();
  delete own.sessionStorage;
});

it('what does not show is known: by its own switch, by that of a group around it, by another alternative', () => {
  const a = adjustmentLayer('a', 'exposure', 'A');
  const group = { ...groupLayer('g', 'G'), what: { kind: 'group' as const, settings: { apart: false }, layers: [a] } };
  const why = (...layers: Layer[]): string | null => hiddenBecause({ ...first, layers }, 'a');
  expect(why(a)).toBeNull();
  expect(why({ ...a, on: false })).toBe('“A” is switched off');
  expect(why({ ...group, on: false })).toBe('“G” is switched off');
  const set = {
    ...colourwayLayer('w', 'W', 'b'),
    what: { kind: 'colourways' as const, settings: { shown: 'b' }, layers: [a, { ...a, id: 'b' }] },
  };
  expect(why(set)).toBe('“W” shows another alternative');
});

describe('a stroke', () => {
  const stroke = { id: 's', size: 20, hardness: 0.5, flow: 1, opacity: 1, erase: false, points: [10, 10, 1] };
  const painted = (where: Partial<Mask>, erase = false): Mask => {
    const layer = { ...adjustmentLayer('a', 'exposure', 'A'), where: { ...everywhere(), ...where } };
    const document = { ...first, layers: [layer] };
    const target = strokeTarget(layer, null, erase, null, (id) => findLayer(document, id));
    return after(document, strokeRecipe(target, { ...stroke, erase }, [0, 0, 0], 0)).layers[0]!.where;
  };

  it('adds to what was drawn or picked, stays within what rules find; erasing takes away from either', () => {
    const joins = (kind: 'outline' | 'pick' | 'hueRange', erase = false): unknown => {
      const parts = [maskPartKind(kind).create('o', 'add', photograph)];
      const brush = painted({ parts }, erase).parts[1]!;
      return [brush.combine, (brush as BrushPart).start];
    };
    expect([joins('outline'), joins('pick'), joins('hueRange')]).toEqual([
      ['add', 'empty'],
      ['add', 'empty'],
      ['common', 'empty'],
    ]);
    expect([joins('outline', true), joins('hueRange', true)]).toEqual([
      ['common', 'full'],
      ['common', 'full'],
    ]);
  });

  it('on an inverted mask without parts begins a plain one, which lets in what is painted', () => {
    expect(painted({ invert: true })).toMatchObject({ invert: false, parts: [{ kind: 'brush', combine: 'add', start: 'empty' }] });
    expect(painted({ invert: true, parts: [part('h')] })).toMatchObject({ invert: true, parts: [{ id: 'h' }, { kind: 'brush' }] });
  });
});

it('what is under a pointer at rest is asked for again with every picture, where the photograph lies by then', () => {
  const { now, probed } = open();
  now().resize(800, 1000);
  now().hear({ type: 'painted', seq: 1 });
  expect(probed).toEqual([]); // the pointer was never there
  const { view } = now();
  now().askProbe(10, 20, [view.x + 10 * view.zoom, view.y + 20 * view.zoom]);
  now().hear({ type: 'painted', seq: 2 });
  expect(probed).toHaveLength(2);
  now().setView({ ...view, x: view.x - 30 * view.zoom });
  now().hear({ type: 'painted', seq: 3 });
  expect(now().probe!.x).toBeCloseTo(40, 6);
});

it('history speaks of numbers with a minus, not a hyphen', () => {
  const { now } = open();
  now().commit('Hue -6.3° on Half-tone', opacity('a', 0.5));
  expect(now().history.labels).toEqual(['Hue −6.3° on Half-tone']);
});
