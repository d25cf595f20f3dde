/** The JSON Schema of a document, put together from the rooms' registries. */
import { Type, type TSchema } from '@sinclair/typebox';
import { adjustments } from '../adjust/registry.ts';
import { blendModes } from '../blend/registry.ts';
import { sources } from '../content/registry.ts';
import type { SpaceId } from '../base/space.ts';
import { spaceIds } from '../colour/spaces.ts';
import { refineKinds } from '../mask/refineRegistry.ts';
import { maskPartKinds } from '../mask/registry.ts';
import { documentFields, fieldKeys } from './fields.ts';
import { foundBySchema } from './foundBy.ts';

const strict = { additionalProperties: false };
const share = Type.Number({ minimum: 0, maximum: 1 });
const percent = Type.Number({ minimum: 0, maximum: 100 });
const id = Type.String({ minLength: 1, maxLength: 40, pattern: '^[A-Za-z0-9_-]+$' });

/** One of several objects told apart by their `kind`; Ajv checks only the one that is named, so that its errors stay readable. */
const oneOfKind = (schemas: TSchema[]): TSchema =>
  Type.Unsafe({ type: 'object', required: ['kind'], discriminator: { propertyName: 'kind' }, oneOf: schemas });

const layers = Type.Array(Type.Unsafe({ $ref: '#/$defs/layer' }), { maxItems: 500 });

const what = oneOfKind([
  ...[...adjustments, ...sources].map(({ kind, schema }) => Type.Object({ kind: Type.Literal(kind), settings: schema }, strict)),
  Type.Object({ kind: Type.Literal('group'), settings: Type.Object({ apart: Type.Boolean() }, strict), layers }, strict),
  Type.Object({ kind: Type.Literal('colourways'), settings: Type.Object({ shown: id }, strict), layers }, strict),
]);

const where = Type.Object(
  {
    parts: Type.Array(oneOfKind(maskPartKinds.map(({ schema }) => schema)), { maxItems: 100 }),
    refine: Type.Array(oneOfKind(refineKinds.map(({ schema }) => schema)), { maxItems: 20 }),
    strength: share,
    invert: Type.Boolean(),
    link: Type.Optional(id),
  },
  strict,
);

const pair = Type.Array(percent, { minItems: 2, maxItems: 2 });
const limits = Type.Optional(Type.Object({ low: pair, high: pair, smooth: Type.Boolean() }, strict));
const how = Type.Object(
  {
    mode: Type.Unsafe<string>({ enum: blendModes.map((mode) => mode.id) }),
    opacity: share,
    letThrough: Type.Optional(Type.Object({ lightness: share, hue: share, chroma: share }, strict)),
    limitsBelow: limits,
    limitsSelf: limits,
  },
  strict,
);

const treatmentMark = Type.Object({ id: Type.String({ pattern: '^[a-z0-9-]{1,40}$' }), version: Type.Integer({ minimum: 1 }) }, strict);

const layer = Type.Object(
  {
    id,
    name: Type.String({ minLength: 1, maxLength: 120 }),
    on: Type.Boolean(),
    where,
    what,
    how,
    clip: Type.Optional(Type.Boolean()),
    note: Type.Optional(Type.String({ maxLength: 2000 })),
    shared: Type.Optional(id),
    origin: Type.Optional(id),
    carried: Type.Optional(Type.Object({ by: Type.String({ minLength: 1, maxLength: 100 }), copy: Type.Integer({ minimum: 1 }) }, strict)),
    foundBy: Type.Optional(foundBySchema),
    treatment: Type.Optional(treatmentMark),
  },
  strict,
);

export const documentSchema = Type.Object(
  {
    format: Type.Literal('umbo-edit'),
    version: Type.Literal(2),
    workingSpace: Type.Unsafe<SpaceId>({ enum: spaceIds }),
    photo: Type.Object({ width: Type.Integer({ minimum: 1 }), height: Type.Integer({ minimum: 1 }) }, strict),
    layers,
    ...Object.fromEntries(fieldKeys.map((key) => [key, Type.Optional(documentFields[key].schema)])),
  },
  { ...strict, $id: 'umbo-edit', $defs: { layer, mask: where } },
);

/** The schema that a `$ref` names. */
export const referred = (ref: string): TSchema => (documentSchema.$defs as Record<string, TSchema>)[ref.split('/').at(-1)!]!;

/** The schemas that one is put together from. */
export const partsOf = ({ $ref, oneOf, anyOf, items, properties }: TSchema): TSchema[] => [
  ...($ref ? [referred($ref as string)] : []),
  ...((oneOf ?? anyOf ?? []) as TSchema[]),
  ...(items && !Array.isArray(items) ? [items as TSchema] : []),
  ...(Object.values(properties ?? {}) as TSchema[]),
];

/** The one of several schemas that is of a value's kind. */
export const branchOf = (schemas: readonly TSchema[], { kind }: Readonly<Record<string, unknown>>): TSchema | undefined =>
  schemas.find(({ properties }) => (properties as Record<string, TSchema> | undefined)?.kind?.const === kind);
