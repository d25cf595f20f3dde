/** What a folded section of the desk holds, in a line. */
import { adjustment } from '@umbo/core/adjust';
import type { AnySettings, Control } from '@umbo/core/base';
import type { ComponentMix } from '@umbo/core/blend';
import { isSource, sourceKind } from '@umbo/core/content';
import { findMaskOwner, type Layer, type MaskOwner, type UmboDocument } from '@umbo/core/document';
import { innerMask, maskPartKind, refineKind, type MaskPart } from '@umbo/core/mask';
import { numberRange } from '@/ui/controls/numberRange';
import { kindName } from '../state/actions';
import { partName } from '../state/masks';

const MOST = 3;

/** The settings that are not as they begin: "Hue +32°, saturation −40". */
function changedWords(settings: AnySettings, defaults: AnySettings, controls: readonly Control<AnySettings>[]): string {
  const changed = controls.flatMap(({ key, label, step = 1, unit = '', signed = false, options, when }) => {
    const [value, usual]: unknown[] = [settings[key], defaults[key]];
    if (value === usual || !(when?.(settings) ?? true)) return [];
    if (options) return [options.find(([id]) => id === value)?.[1] ?? label];
    if (typeof value === 'boolean') return value ? [label] : [];
    return typeof value === 'number' ? [`${label} ${numberRange({ min: -1e9, max: 1e9, step, unit, signed }).words(value)}`] : [];
  });
  const [first, ...rest] = changed.slice(0, MOST);
  const words = [first, ...rest.map((text) => text[0]!.toLowerCase() + text.slice(1))].join(', ');
  return changed.length > MOST ? `${words} …` : words;
}

/** A part by its name; what stands in brackets, by what it is made of. */
function partWords(part: MaskPart, nameOf: (layerId: string) => string): string {
  const inner = innerMask(part);
  if (!maskPartKind(part.kind).open || part.name || !inner) return partName(part);
  if (inner.link !== undefined) return `the mask of “${nameOf(inner.link)}”`;
  return `(${inner.parts
    .filter(({ on }) => on)
    .map((one) => partWords(one, nameOf))
    .join(', ')})`;
}

export function whereSummary({ where }: MaskOwner, document: UmboDocument): string {
  const nameOf = (id: string): string => findMaskOwner(document, id)?.name ?? 'a layer that is gone';
  if (where.link !== undefined) return `the mask of “${nameOf(where.link)}”`;
  if (where.parts.length === 0) return where.invert ? 'nothing: inverted' : 'the whole photograph';
  const steps = where.refine
    .filter(({ off }) => !off)
    .map((step) => {
      const { name, controls } = refineKind(step.kind);
      const settings: AnySettings = step;
      const number = controls.find(({ key }) => typeof settings[key] === 'number');
      return `${name.toLowerCase()}${number ? ` ${String(settings[number.key])} ${number.unit ?? ''}`.trimEnd() : ''}`;
    });
  return `${where.invert ? 'not ' : ''}${[...where.parts.filter(({ on }) => on).map((part) => partWords(part, nameOf)), ...steps].join(', ')}`;
}

export function whatSummary({ what }: Layer, photograph: { width: number; height: number }): string {
  if ('layers' in what) return `${kindName(what)}, ${what.layers.length} ${what.layers.length === 1 ? 'layer' : 'layers'}`;
  if (isSource(what)) {
    const kind = sourceKind(what.kind);
    return `${kind.name}, ${changedWords(what.settings, kind.create(photograph), kind.controls)}`.replace(/, $/, '');
  }
  const { name, defaults, controls } = adjustment(what.kind);
  const changed = changedWords(what.settings, defaults, controls);
  return changed === '' ? name : `${name}: ${changed}`;
}

const QUALITIES: readonly (readonly [keyof ComponentMix, string])[] = [
  ['lightness', 'lightness'],
  ['hue', 'hue'],
  ['chroma', 'chroma'],
];

/** What the foot of the desk does not show by itself: what is let through, and in which tones. */
export function howSummary({ how, clip }: Layer): string {
  const pass = how.letThrough;
  const kept = pass ? QUALITIES.filter(([key]) => pass[key] === 0).map(([, name]) => name) : [];
  const words = [
    ...(kept.length > 0 ? [`keeps ${kept.join(' and ')}`] : pass ? ['lets some of it through'] : []),
    ...(how.limitsBelow || how.limitsSelf ? ['in some tones'] : []),
    ...(clip ? ['clipped'] : []),
  ];
  return words.length > 0 ? words.join('; ') : 'all of it, in all tones';
}
