'use client';
import { rgbToLab, spaces } from '@umbo/core/colour';
import { adjustmentLayer, everywhere, type Region, type Role } from '@umbo/core/document';
import { labOfText } from '../colour/colourOfText';
import { addLayer, placeNew } from '../state/actions';
import type { BenchState } from '../state/benchState';
import { findRegions } from '../state/found/finding';
import { measureInto } from '../state/measuring';
import { match, NEUTRALISING } from '../state/solving';
import { stays, type Intent, type Now, type Step } from './intent';
import { agree, bringTo, NEUTRAL, pinnedSince } from './matching';

const read = (now: Now): void => now().set({ tool: 'read' });

/** A place of the photograph that is pressed on. @param after what follows, with all that were pinned so far */
const press = (says: string, count: number, after?: Step['after']): Step => ({
  says,
  isDone: (now, began) => pinnedSince(now, began).length >= count,
  ...(after && { after }),
});

const MASK_IS =
  'The layer acts on what is like the place you pressed on. Paint to add to its mask; D again erases. Then press Solve again.';

const regionOf = ({ committed }: BenchState, roles: readonly Role[]): Region | undefined =>
  roles.flatMap((role) => committed.regions?.find((one) => one.role === role) ?? [])[0];

/** Works on a region that is found first, if it is not known yet. */
function onRegion(roles: readonly Role[], what: string, act: (now: Now, region: Region | null) => void): Pick<Intent, 'begin' | 'steps'> {
  return {
    begin(now) {
      if (!regionOf(now(), roles) && now().finding === null) void findRegions(now);
    },
    steps: [
      {
        says: `Looking for ${what}: this takes some seconds. You can go on with something else meanwhile.`,
        isDone: (now) => now.finding === null || regionOf(now, roles) !== undefined,
        after: (now) => act(now, regionOf(now(), roles) ?? null),
      },
      stays('Set how much with the sliders on the right. To paint into its mask, make it the layer’s own under Where.'),
    ],
  };
}

/** A layer on a region, or on what will be painted where there is none. */
function layerOn(now: Now, region: Region | null, name: string, kind: 'hueSaturation' | 'evenness', settings: object): string | null {
  const layer = adjustmentLayer(crypto.randomUUID(), kind, name);
  Object.assign(layer.what.settings, settings);
  if (region) layer.where = { ...everywhere(), link: region.id };
  if (!now().commit(`New layer ${name}`, placeNew(now(), [layer]))) return null;
  now().select(layer.id);
  if (!region) now().set({ tool: 'paint' });
  return layer.id;
}

/** Teeth a little lighter and paler; white as paper looks wrong (common practice, no source). */
const WHITER = { saturation: -35, lightness: 10 };
/** Blotches of skin pass into its own colour, its texture stays. */
const EVENER = { hueBroad: -50, chromaBroad: -40 };

export const intents: readonly Intent[] = [
  {
    id: 'agree',
    words: 'Make this agree with that',
    explains: 'in hue and chroma: skin with skin, fold with fold',
    alike: 'match same colour cast magenta shoulder consistent patch skin redder greener',
    begin: read,
    steps: [
      press('Press on what is off, or drag over it.', 1),
      press('Now press on what is right.', 2, (now, began) => {
        const [off, right] = pinnedSince(now(), began);
        agree(now, off!, right!);
      }),
      stays(MASK_IS),
    ],
  },
  {
    id: 'told',
    words: 'Give this a colour I was told',
    explains: 'a hex, a swatch, a measured colour',
    alike: 'hex brand recolour change colour pantone target lab swatch replace product',
    begin: read,
    steps: [
      press('Press on what is to get the colour, or drag over it.', 1),
      {
        says: 'Which colour? Type it, as #7a2e3b, lab(60 20 15) or a name.',
        isDone: () => false,
        typed(now, began, text) {
          const lab = labOfText(text);
          if (!lab) return 'This is no colour: write it as #7a2e3b, lab(60 20 15), lch(60 25 40) or a CSS name.';
          bringTo(now, pinnedSince(now(), began)[0]!, lab, text.trim().slice(0, 60));
          return null;
        },
      },
      stays(MASK_IS),
    ],
  },
  {
    id: 'cast',
    words: 'Take a cast out',
    explains: 'press on something that should be grey',
    alike: 'white balance neutral grey gray warm cool yellow blue tint temperature',
    begin: read,
    steps: [
      press('Press on something that should be grey: paper, a wall, a steel tap.', 1, (now, began) => {
        const { id } = pinnedSince(now(), began)[0]!;
        void match(now, NEUTRALISING[0]!, [id], new Map([[id, NEUTRAL]]));
      }),
      stays('The whole photograph moved. If only a part has the cast, paint over it: the layer then acts there alone.'),
    ],
  },
  {
    id: 'teeth',
    words: 'Whiten teeth',
    explains: 'found by themselves, a little lighter and paler',
    alike: 'tooth smile yellow mouth white',
    ...onRegion(['teeth'], 'teeth', (now, region) => layerOn(now, region, 'Whiter teeth', 'hueSaturation', WHITER)),
  },
  {
    id: 'skin',
    words: 'Even the skin',
    explains: 'blotches pass into its own colour, texture stays',
    alike: 'smooth blotch red spots face evenness redness complexion',
    ...onRegion(['faceSkin', 'bodySkin'], 'skin', (now, region) => {
      const id = layerOn(now, region, 'Even skin', 'evenness', EVENER);
      const layer = now().committed.layers.find((one) => one.id === id);
      if (layer && region) void measureInto(now, layer, { kind: 'ownColours', settings: {} }, 'The region’s own colours');
    }),
  },
  {
    id: 'light',
    words: 'Lighten or darken a part',
    explains: 'paint it, then set how much',
    alike: 'brighter darker exposure dodge burn shadow highlight light vignette',
    begin(now) {
      now().select(null);
      addLayer(now(), 'exposure');
      const { layerId } = now();
      now().commit('Half a stop lighter', (draft) => {
        const layer = draft.layers.find(({ id }) => id === layerId);
        if (layer) Object.assign(layer.what.settings, { stops: 0.5 });
      });
      now().set({ tool: 'paint' });
    },
    steps: [stays('Paint over the part. Exposure, on the right, says how light or dark it becomes; D again erases.')],
  },
  {
    id: 'colour',
    words: 'Colour what has none',
    explains: 'old photographs, drawings: light and shade stay',
    alike: 'colourise colorize black and white monochrome hand tint paint old',
    begin(now) {
      addLayer(now(), 'paint', { mode: 'color' });
    },
    steps: [stays('Choose a colour on the right and paint. The layer gives hue and chroma only; light and shade stay.')],
  },
  {
    id: 'like',
    words: 'Make it like another photograph',
    explains: 'one of the shoot, or any file',
    alike: 'reference match look series transfer copy same as',
    begin(now) {
      read(now);
      now().set({ references: now().references ?? [] });
    },
    steps: [
      press('Press on something here that should look as it does in the other photograph.', 1, (now) => now().set({ tool: 'sample' })),
      {
        says: 'Choose the other photograph on the right, and press on the same thing in it.',
        isDone: (now, began) => now.sample !== null && now.sample !== began.sample,
        after(now, began) {
          const { sample, committed } = now();
          bringTo(now, pinnedSince(now(), began)[0]!, rgbToLab(spaces[committed.workingSpace], ...sample!), 'the reference', true);
        },
      },
      stays('The whole photograph moved. Paint over a part, and the layer acts there alone.'),
    ],
  },
];
