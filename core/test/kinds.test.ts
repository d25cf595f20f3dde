/** A kind's name stands where the kind is: in its own file, its registry and its editor. Everything else asks the registry. */
import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { adjustments } from '@umbo/core/adjust';
import { sources } from '@umbo/core/content';
import { maskPartKinds, refineKinds } from '@umbo/core/mask';
import { expect, it } from 'vitest';

const root = fileURLToPath(new URL('../..', import.meta.url));
const kinds = [...adjustments, ...sources, ...maskPartKinds, ...refineKinds].map(({ kind }) => kind);

/** What is made of certain kinds, or edits them: where they may be named beside their own files. */
const NAMED: Record<string, readonly string[]> = {
  // What a measurement finds is written into the kinds that can hold it.
  'core/src/measure/firstCorrection.ts': ['levels', 'whiteBalance', 'curves'],
  'core/src/measure/proposals.ts': ['levels', 'curves', 'self'],
  'core/src/measure/maskHealth.ts': ['clean', 'feather'],
  'core/src/measure/ramp.ts': ['evenRamp'],
  'core/src/measure/toneStops.ts': ['gradientMap'],
  'core/src/measure/ownColours.ts': ['evenness'],
  'core/src/measure/hazeLight.ts': ['haze'],
  'core/src/measure/ends.ts': ['levels'],
  // A job of this name makes levels of a pyramid.
  'render/src/main.ts': ['levels'],
  // A mask as a picture is a fill of greys.
  'core/src/document/maskDocument.ts': ['fill'],
  // Editors on the stage and on the desk.
  'web/src/bench/state/strokes.ts': ['brush', 'paint'],
  // Brackets are put around parts, and what has no narrower state is shrunk.
  'web/src/bench/state/masks.ts': ['bracket', 'grow'],
  'web/src/bench/stage/OutlineTool.tsx': ['outline'],
  // What lies elsewhere otherwise is taken out of the picture as a picture of its own.
  'core/src/solve/sampleSet.ts': ['paint'],
  // A fill is matched in modes of its own.
  'web/src/bench/state/solving.ts': ['fill'],
  // The areas of readings are drawn.
  'web/src/bench/stage/ReadingRings.tsx': ['ellipse', 'outline'],
  'web/src/bench/state/readings.ts': ['ellipse', 'outline'],
  'web/src/bench/where/RefineEditor.tsx': ['feather'],
  // Treatments to begin with are made of kinds.
  'core/src/treatment/starters/parts.ts': ['found', 'feather', 'fill'],
  'core/src/treatment/starters/lampLight.ts': ['hueRange'],
  'web/src/bench/what/tryingChannels.ts': ['channel'],
  // Frames are laid over each other.
  'web/src/bench/what/exposures/aligning.ts': ['frame', 'joined', 'luminosity', 'wellExposed', 'bracket', 'feather'],
  // What is found comes as a part of that kind.
  'core/src/document/found.ts': ['found'],
  // What people come for puts certain kinds in hand.
  'web/src/bench/intents/intents.ts': ['exposure', 'paint', 'hueSaturation'],
  'web/src/bench/intents/matching.ts': ['likeness'],
  'web/src/bench/where/MaskMenu.tsx': ['picture'],
  'web/src/bench/where/maskFiles.ts': ['picture'],
};

const named = new RegExp(
  '(?:' +
    [
      String.raw`kind\)? ?(?:===|!==|:) ?`,
      String.raw`\b(?:sourceKind|adjustment|maskPartKind|refineKind)(?:<.*>)?\(`,
      'SettingsOf<',
      String.raw`(?:addPart|addLayer|adjustmentLayer|sourceLayer|writeContent)\([^']*`,
    ].join('|') +
    `)'(${kinds.join('|')})'`,
  'g',
);

function* files(folder: string): Generator<string> {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* files(path);
    else if (/\.tsx?$/.test(entry.name)) yield path;
  }
}

const namesIn = (text: string): string[] => [...new Set(Array.from(text.matchAll(named), ([, kind]) => kind!))];

it('a kind is named in its own file, its editor, and the few files that make or edit just that kind', () => {
  expect(namesIn("what.kind === 'curves' && sourceKind('fill'); a: SettingsOf<'haze'>; addPart(now(), 'brush')")).toHaveLength(4);
  const strays: string[] = [];
  const used = new Set<string>();
  for (const room of ['core/src', 'data/src', 'render/src', 'web/src'])
    for (const path of files(join(root, room))) {
      const file = relative(root, path);
      const own = /^core\/src\/(adjust|content\/sources|mask\/parts|mask\/refine)\//.test(file);
      const editor = /\/bench\/(what(\/\w+)?|where\/parts)\/\w+Editor\.tsx$/.test(file); // some have a folder of their own
      for (const kind of namesIn(readFileSync(path, 'utf8').replaceAll(/^ \* .*$/gm, ''))) {
        if (own && !file.endsWith(`/${kind}.ts`)) strays.push(`${file}: ${kind}`);
        if (own || editor) continue;
        if (NAMED[file]?.includes(kind)) used.add(`${file} ${kind}`);
        else strays.push(`${file}: ${kind}`);
      }
    }
  expect(strays).toEqual([]);
  // What the list allows is really there: else it would hide the next one.
  expect(used.size).toBe(Object.values(NAMED).flat().length);
});
