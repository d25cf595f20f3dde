/** How many of a thing, and how long a text, the schema lets an edit hold: asked of every change, so that nothing is made that is refused later. */
import type { TSchema } from '@sinclair/typebox';
import { branchOf, documentSchema, partsOf, referred } from './schema.ts';

type Bag = Readonly<Record<string, unknown>>;

const holds = new Map<TSchema, boolean>();

/** Whether a schema sets limits of this kind somewhere: strokes of a hundred thousand numbers are not looked through. */
function holdsLimits(schema: TSchema): boolean {
  let known = holds.get(schema);
  if (known === undefined) {
    holds.set(schema, false); // what refers to itself holds what the rest of it holds
    known = schema.maxItems !== undefined || schema.maxLength !== undefined || partsOf(schema).some(holdsLimits);
    holds.set(schema, known);
  }
  return known;
}

/** What was found within its limits: states share what they have in common, so that little is looked at twice. */
const within = new WeakMap<object, Set<TSchema>>();

function overLimit(schema: TSchema, value: unknown, name: string): string | null {
  if (schema.$ref) return overLimit(referred(schema.$ref as string), value, name);
  if (typeof value === 'string') {
    const most = schema.maxLength as number | undefined;
    return most !== undefined && value.length > most ? `a ${name} is longer than ${most} characters` : null;
  }
  if (typeof value !== 'object' || value === null || !holdsLimits(schema)) return null;
  const known = within.get(value);
  if (known?.has(schema)) return null;
  const fault = overLimitIn(schema, value, name);
  if (fault === null) within.set(value, (known ?? new Set<TSchema>()).add(schema));
  return fault;
}

function overLimitIn(schema: TSchema, value: object, name: string): string | null {
  if (Array.isArray(value)) {
    const most = schema.maxItems as number | undefined;
    if (most !== undefined && value.length > most) return `it has more than ${most} ${WORDS[name] ?? name} in one place`;
    const items = schema.items as TSchema | undefined;
    if (!items || Array.isArray(items) || !holdsLimits(items)) return null;
    for (const one of value) {
      const fault = overLimit(items, one, name);
      if (fault) return fault;
    }
    return null;
  }
  const branch = schema.oneOf ? branchOf(schema.oneOf as TSchema[], value as Bag) : schema;
  for (const [key, of] of Object.entries((branch?.properties ?? {}) as Record<string, TSchema>)) {
    const fault = overLimit(of, (value as Bag)[key], key);
    if (fault) return fault;
  }
  return null;
}

/** What lists are called on the screen, where that is not as in the document. */
const WORDS: Readonly<Record<string, string>> = { parts: 'mask parts', refine: 'refining steps', points: 'numbers of a stroke' };

/** @returns which limit of the schema an edit passes, as the end of a sentence; null when none */
export const passedLimit = (document: object): string | null => overLimit(documentSchema, document, 'document');
