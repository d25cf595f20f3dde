/** Parts that look at the photograph, or, where that is chosen, at the picture below the layer as it is so far. */
import { Type } from '@sinclair/typebox';
import { BACKDROP, type Need } from '../base/need.ts';

/** Whether a part looks at the picture below the layer; left out: at the photograph. */
export const resultSchema = Type.Optional(Type.Boolean());

export const RESULT_CONTROL = { key: 'result', label: 'Of the result so far' } as const;

export const resultNeeds = ({ result }: { readonly result?: boolean }): readonly Need[] => (result ? [BACKDROP] : []);
