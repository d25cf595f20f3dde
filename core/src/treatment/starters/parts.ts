/** What treatments to begin with are made of. */
import type { AdjustmentContent, SettingsOf } from '../../adjust/registry.ts';
import type { Colour } from '../../colour/colour.ts';
import type { FillSettings } from '../../content/sources/fill.ts';
import { adjustmentLayer, emptyDocument, everywhere, groupLayer, sourceLayer } from '../../document/defaults.ts';
import type { Reading } from '../../document/reading.ts';
import { roleName, type Region, type Role } from '../../document/region.ts';
import { repeatable } from '../../document/tree.ts';
import type { Layer } from '../../document/types.ts';
import type { FoundPart } from '../../mask/parts/found.ts';
import { maskPartKind, type Mask } from '../../mask/registry.ts';
import { refineKind, type RefineStep } from '../../mask/refineRegistry.ts';
import type { Treatment } from '../treatment.ts';

/** A treatment that everybody has. */
export interface Starter extends Treatment {
  readonly id: string;
}

/** The photograph that none was made on: lengths are in its pixels, and scaled. */
const PHOTO = { width: 3000, height: 2000 };
const NOWHERE = '0'.repeat(64);

/** A region that is to be found on every photograph. */
function region(role: Role): Region {
  const part: FoundPart = {
    ...maskPartKind<FoundPart>('found').create(`${role}-found`, 'add', PHOTO),
    ...{ photograph: NOWHERE, of: NOWHERE },
  };
  return { id: role, name: roleName(role), role, where: { ...everywhere(), parts: [part] } };
}

/** Within a region, softened over so many pixels. */
export function within(role: Role, feather = 0): Mask {
  const refine = feather > 0 ? [{ ...(refineKind('feather').create() as RefineStep), radius: feather } as RefineStep] : [];
  return { ...everywhere(), link: role, refine };
}

type More = Partial<Pick<Layer, 'where' | 'foundBy'>> & { mode?: string; opacity?: number };

function finished(layer: Layer, { mode = layer.how.mode, opacity = layer.how.opacity, ...more }: More): Layer {
  return { ...layer, ...more, how: { ...layer.how, mode, opacity } };
}

/** A layer that changes what is below it. */
export function adjusting<K extends AdjustmentContent['kind']>(
  id: string,
  name: string,
  kind: K,
  settings: Partial<SettingsOf<K>>,
  more: More = {},
): Layer {
  const layer = adjustmentLayer(id, kind, name);
  Object.assign(layer.what.settings, settings);
  return finished(layer, more);
}

/** A layer of one colour. */
export function colouring(id: string, name: string, colour: Colour, more: More = {}): Layer {
  const layer = sourceLayer(id, 'fill', name, PHOTO);
  (layer.what.settings as FillSettings).colour = [...colour];
  return finished(layer, more);
}

/** A treatment of layers; regions come with those that are on them. */
export function starter(id: string, name: string, note: string, layers: readonly Layer[], readings: readonly Reading[] = []): Starter {
  const group = groupLayer(`${id}-group`, name);
  (group.what as { layers: Layer[] }).layers.push(...layers);
  const links = new Set([...layers, ...readings].flatMap(({ where }) => where?.link ?? []));
  const document = {
    ...emptyDocument(PHOTO),
    layers: [group],
    regions: [...links].map((role) => region(role as Role)),
    ...(readings.length > 0 && { readings: [...readings] }),
  };
  return { id, name, note, document, solve: repeatable(document).map((layer) => layer.id) };
}
