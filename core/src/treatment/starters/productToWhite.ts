import type { Reading } from '../../document/reading.ts';
import { everywhere } from '../../document/defaults.ts';
import { adjusting, starter, within } from './parts.ts';

const aim = { kind: 'colour', lab: { l: 78, a: 1, b: 5 } } as const;
const target = { ...aim, name: 'White' } as const;
const product: Reading = { id: 'white-product', letter: 'A', name: 'Product', where: { ...everywhere(), link: 'object' }, target };

/** A product in any colour becomes white, with its light and shade; what is around it stays. */
export const productToWhite = starter(
  'product-to-white',
  'Product to white',
  'Makes the main object white, whatever colour it has: most of its colour is taken out, then a light mean is solved for, shade included. Light and shade on it stay.',
  [
    adjusting('weaker', 'Colour out', 'hueSaturation', { saturation: -88 }, { where: within('object', 3) }),
    adjusting(
      'white',
      'White',
      'curves',
      {},
      {
        where: within('object', 3),
        foundBy: { kind: 'solver', turned: 'settings', readings: [{ id: product.id, aim }] },
      },
    ),
  ],
  [product],
);
