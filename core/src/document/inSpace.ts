/** Bringing an edit into another colour space: the colours that it holds stay what they are, as far as that space holds them. */
import type { TSchema } from '@sinclair/typebox';
import { colourBetween } from '../colour/betweenSpaces.ts';
import { isColourSchema, type Colour } from '../colour/colour.ts';
import { spaces } from '../colour/spaces.ts';
import type { SpaceId } from '../base/space.ts';
import { clamp } from '../base/number.ts';
import { branchOf, documentSchema, partsOf, referred } from './schema.ts';
import type { UmboDocument } from './types.ts';

type Change = (colour: Colour) => Colour;
type Bag = Record<string, unknown>;

const known = new Map<TSchema, boolean>();

/** Whether values of a schema can hold colours: strokes of a hundred thousand numbers are not looked through. */
function holdsColours(schema: TSchema): boolean {
  let holds = known.get(schema);
  if (holds === undefined) {
    known.set(schema, false); // what refers to itself holds what the rest of it holds
    holds = isColourSchema(schema) || partsOf(schema).some(holdsColours);
    known.set(schema, holds);
  }
  return holds;
}

function changed(schema: TSchema, value: unknown, change: Change): unknown {
  if (value === undefined || value === null || !holdsColours(schema)) return value;
  if (isColourSchema(schema)) return change(value as Colour);
  if (schema.$ref) return changed(referred(schema.$ref as string), value, change);
  if (schema.oneOf) return changed(branchOf(schema.oneOf as TSchema[], value as Bag)!, value, change);
  if (schema.items) return (value as unknown[]).map((one) => changed(schema.items as TSchema, one, change));
  const properties = (schema.properties ?? {}) as Record<string, TSchema>;
  const entries = Object.entries(value as Bag).map(([key, one]) => [key, properties[key] ? changed(properties[key], one, change) : one]);
  return Object.fromEntries(entries);
}

/**
 * An edit whose colours are those of another space. Numbers that act on channels, such as curves, stay as they are.
 * @example
 * const document = emptyDocument({ width: 60, height: 40 });
 * inSpace(document, 'display-p3').workingSpace; // → 'display-p3'
 */
export function inSpace(document: UmboDocument, to: SpaceId): UmboDocument {
  if (document.workingSpace === to) return document;
  const [source, target] = [spaces[document.workingSpace], spaces[to]];
  const change: Change = (colour) => colourBetween(source, target, colour).map((v) => clamp(v, 0, 1)) as Colour;
  return { ...(changed(documentSchema, document, change) as UmboDocument), workingSpace: to };
}
