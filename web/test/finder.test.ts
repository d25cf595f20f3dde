/** What is found by words, and how intents lead from one step to the next. */
import { addRegions, everywhere, findLayer, type Region } from '@umbo/core/document';
import { maskPartKind, type LikenessPart } from '@umbo/core/mask';
import { describe, expect, it } from 'vitest';
import { findables, search, type Findable } from '../src/bench/finder/findable';
import { follow } from '../src/bench/intents/following';
import { beginIntent } from '../src/bench/intents/intent';
import { intents } from '../src/bench/intents/intents';
import { addSpot, readingsOf, targetOf } from '../src/bench/state/readings';
import { open, type World } from './world';

const entry = (id: string, words: string, lives: string, alike = ''): Findable => ({ id, words, lives, alike, run: () => undefined });

describe('a search', () => {
  const list = [
    entry('intent a', 'Whiten teeth', 'What is to be done', 'tooth smile red'),
    entry('b', 'Curves', 'New layer: any tone to any other', 'contrast'),
    entry('c', 'Curtain', 'Regions'),
    entry('d', 'Contrast of red', 'New layer'),
  ];
  const ids = (text: string): string[] => search(list, text).map(({ id }) => id);

  it('shows what people come for before a word is typed, and nothing for words that nothing has', () => {
    expect(ids('')).toEqual(['intent a']);
    expect(ids('  ')).toEqual(['intent a']);
    expect(ids('xyzzy')).toEqual([]);
  });

  it('asks for all words, takes beginnings and longer forms, and prefers what is called so', () => {
    expect(ids('cur')).toEqual(['b', 'c']);
    expect(ids('curves tone')).toEqual(['b']);
    expect(ids('contrast')).toEqual(['d', 'b']);
    expect(ids('redder')).toEqual(['d', 'intent a']);
    expect(ids('TEETH, new')).toEqual([]);
  });

  it('finds on a bench what there is: regions and layers by their names, modes and parts while a layer is chosen; each does what it says', () => {
    const { store, now } = open();
    const region: Region = { id: 'r', name: 'Left sleeve', where: everywhere() };
    now().commit('x', addRegions([region]));
    const found = (text: string): Findable[] => search(findables(now()), text);
    expect(found('sleeve').map(({ lives }) => lives)).toEqual(['Regions']);
    now().select('a');
    found('multiply')[0]!.run(store);
    expect(findLayer(now().committed, 'a')!.how.mode).toBe('multiply');
    found('posterise')[0]!.run(store);
    expect(findLayer(now().committed, now().layerId)!.what.kind).toBe('posterise');
    found('ellipse part')[0]!.run(store);
    expect(findLayer(now().committed, now().layerId)!.where.parts.map(({ kind }) => kind)).toEqual(['ellipse']);
    found('sleeve')[0]!.run(store);
    expect(now().layerId).toBe('r');
    now().select(null);
    expect(found('multiply').filter(({ lives }) => lives.startsWith('How'))).toEqual([]);
    // What is found is never found twice.
    const all = findables(now()).map(({ id }) => id);
    expect(new Set(all).size).toBe(all.length);
  });
});

describe('an intent', () => {
  const begin = (world: World, id: string): void =>
    beginIntent(
      world.now,
      intents.find((one) => one.id === id)!,
    );
  const side = (mean: [number, number, number]) => ({
    mean,
    spread: { hue: 1, chroma: 1, lightness: 1 },
    lightest: mean,
    darkest: mean,
    lights: mean,
    shadows: mean,
    clipped: 0,
  });
  const press = (world: World, mean: [number, number, number]): void => {
    addSpot(world.now(), 50 + 40 * readingsOf(world.now()).length, 60);
    const { id } = readingsOf(world.now()).at(-1)!;
    world.now().hear({ type: 'readings', measured: [[id, { before: side(mean), after: side(mean), below: null, samples: [] }]] });
  };
  const stepOf = ({ now }: World): number | null => now().guide?.step ?? null;

  it('goes on when a step is done and not before, and asks the solver for what was meant', () => {
    const world = open();
    const end = follow(world.store);
    begin(world, 'agree');
    expect([world.now().tool, stepOf(world)]).toEqual(['read', 0]);
    // A place that is pinned counts once it has been read.
    addSpot(world.now(), 10, 10);
    expect(stepOf(world)).toBe(0);
    world
      .now()
      .step(-1)
      .catch(() => undefined);
    press(world, [0.6, 0.3, 0.4]);
    expect(stepOf(world)).toBe(1);
    press(world, [0.6, 0.5, 0.4]);
    expect(stepOf(world)).toBe(2);
    const [off, right] = readingsOf(world.now()).slice(-2);
    expect(off!.target).toEqual({ kind: 'reading', reading: right!.id, keepsLight: true });
    // Hue and chroma are the other's, the light its own.
    const [to, own] = [targetOf(world.now(), off!)!, targetOf(world.now(), { ...off!, target: { kind: 'neutral' } })!];
    expect(to.l).toBe(own.l);
    const { ask } = world.asked.at(-1)!;
    expect(ask).toMatchObject({ kind: 'solve', wanted: [{ id: off!.id, aim: { kind: 'reading', keepsLight: true } }] });
    const { layer } = ask as unknown as { layer: { name: string; where: { parts: LikenessPart[] } } };
    expect([layer.name, layer.where.parts.map(({ kind }) => kind)]).toEqual([`${off!.letter} as ${right!.letter}`, ['likeness']]);
    // It catches the one colour and leaves the other out, and reaches less far than from one to the other.
    const [part] = layer.where.parts;
    expect(part!.colours.filter(({ away }) => away).map(({ colour }) => colour[1])).toEqual([0.5]);
    expect(part!.colours.filter(({ away }) => !away).map(({ colour }) => colour[1])).toEqual([0.3]);
    expect(part!.tolerance).toBeGreaterThan(maskPartKind<LikenessPart>('likeness').create('x', 'add', world.now().photograph).tolerance);
    end();
  });

  it('takes a typed colour, refuses what is none, and leaves what was done when it is left', () => {
    const world = open();
    const end = follow(world.store);
    begin(world, 'told');
    press(world, [0.2, 0.4, 0.3]);
    const step = intents.find(({ id }) => id === 'told')!.steps[world.now().guide!.step]!;
    expect(step.typed!(world.now, world.now().guide!.began, 'plum-ish')).toMatch(/no colour/);
    expect(world.asked.filter(({ ask }) => ask.kind === 'solve')).toEqual([]);
    expect(step.typed!(world.now, world.now().guide!.began, '#7a2e3b')).toBeNull();
    expect(readingsOf(world.now())[0]!.target).toMatchObject({ kind: 'colour', name: '#7a2e3b' });
    world.now().set({ guide: null });
    press(world, [0.5, 0.5, 0.5]);
    expect([stepOf(world), readingsOf(world.now()).length]).toEqual([null, 2]);
    end();
  });

  it('works on a region that is there, by an ordinary layer linked to it', () => {
    const world = open();
    const end = follow(world.store);
    world.now().commit('x', addRegions([{ id: 't', name: 'Teeth', role: 'teeth', where: everywhere() }]));
    begin(world, 'teeth');
    world.now().set({ notice: null }); // the next that happens
    const layer = findLayer(world.now().committed, world.now().layerId)!;
    expect(layer).toMatchObject({
      name: 'Whiter teeth',
      where: { link: 't' },
      what: { kind: 'hueSaturation', settings: { saturation: -35 } },
    });
    expect(stepOf(world)).toBe(1);
    end();
  });
});
