/** The finished edit of the demo: the coral stool in another lacquer, on a calmer floor. */
import { adjustmentLayer, insertLayers, onLayer, type Layer, type Recipe } from '@umbo/core/document';

function layer(id: string, name: string, hue: { from: number; fadeIn: number; span: number; fadeOut: number; greys: number }, feather: number): Layer {
  const base = adjustmentLayer(id, 'hueSaturation', name);
  base.where.parts.push({ id: `${id}-hue`, kind: 'hueRange', on: true, invert: false, combine: 'add', ...hue });
  base.where.refine.push({ kind: 'feather', radius: feather });
  return base;
}

const set = (id: string, values: { hue?: number; saturation?: number; lightness?: number }): Recipe => onLayer(id, ({ what }) => Object.assign(what.settings, values));

const lacquer = layer('lacquer', 'Lacquer', { from: 5, fadeIn: 8, span: 28, fadeOut: 12, greys: 0.045 }, 2);
const floor = layer('floor', 'Calm floor', { from: 48, fadeIn: 12, span: 40, fadeOut: 12, greys: 0.04 }, 6);

export const finishedEdit: { photograph: string; steps: { label: string; recipe: Recipe }[] } = {
  photograph: 'stool.jpg',
  steps: [
    { label: 'New layer Lacquer', recipe: insertLayers([lacquer], null) },
    { label: 'Hue +150° on Lacquer', recipe: set('lacquer', { hue: 150 }) },
    { label: 'Saturation −18 on Lacquer', recipe: set('lacquer', { saturation: -18 }) },
    { label: 'New layer Calm floor', recipe: insertLayers([floor], 'lacquer') },
    { label: 'Saturation −30 on Calm floor', recipe: set('floor', { saturation: -30 }) },
  ],
};
