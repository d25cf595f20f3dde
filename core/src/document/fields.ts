/**
 * What an edit holds beside its layers. Merging, taking over another edit, bringing it to another photograph, and the schema go by this
 * table: a new field is a line in each of the two.
 */
import { Type, type TSchema } from '@sinclair/typebox';
import type { Fit } from '../base/fit.ts';
import type { SpaceId } from '../base/space.ts';
import { spaceIds } from '../colour/spaces.ts';
import { fitGeometry, geometrySchema, type Geometry } from '../geometry/geometry.ts';
import { fitReadings, lettersApart, READINGS, readingSchema, type Reading } from './reading.ts';
import { fitRegions, REGIONS, regionSchema, type Region } from './region.ts';

export interface DocumentFields {
  /** The space that the file's samples are taken to be in, whatever it says; left out: as it says. */
  readAs?: SpaceId;
  /** How much of the whole stack is seen, 0..1; left out: all of it. */
  strength?: number;
  /** How the picture is cut from the photograph; left out: all of it, as it is. */
  geometry?: Geometry;
  /** Named parts of the photograph, in the order of their list; left out: none. */
  regions?: Region[];
  /** Places whose colours are read, in the order of their list; left out: none. */
  readings?: Reading[];
}

interface Field<V> {
  /** What it is, in a question about two versions. */
  readonly words: string;
  readonly schema: TSchema;
  /** Changes a value that was joined from two sides in place, where the two do not go together as they are. */
  readonly apart?: (value: V) => void;
  /** Changes a value in place so that it suits a photograph of another size; left out where it has no place. */
  readonly fit?: (value: V, fit: Fit) => void;
}

export const documentFields: { readonly [K in keyof DocumentFields]-?: Field<NonNullable<DocumentFields[K]>> } = {
  readAs: { words: 'how the file is read', schema: Type.Unsafe<SpaceId>({ enum: spaceIds }) },
  strength: { words: 'the strength of all layers', schema: Type.Number({ minimum: 0, maximum: 1 }) },
  geometry: { words: 'the crop', schema: geometrySchema, fit: fitGeometry },
  regions: { words: 'the regions', schema: Type.Array(regionSchema, { maxItems: REGIONS }), fit: fitRegions },
  readings: {
    words: 'the readings',
    schema: Type.Array(readingSchema, { maxItems: READINGS }),
    apart: lettersApart,
    fit: fitReadings,
  },
};

export const fieldKeys = Object.keys(documentFields) as (keyof DocumentFields)[];
