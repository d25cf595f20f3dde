/** What requests may say. */
import { type Colour, spaceIds } from '@umbo/core/colour';
import type { SpaceId } from '@umbo/core/base';
import type { Intent } from '@umbo/files';
import { Type } from '@sinclair/typebox';
import { adjustments } from '@umbo/core/adjust';
import { ROLES } from '@umbo/core/document';
import { fileFormatIds, type FileFormat } from '@umbo/core/format';
import { treatmentFileSchema } from '@umbo/core/treatment';

const strict = { additionalProperties: false };
const word = Type.String({ minLength: 1, maxLength: 40, pattern: '^[A-Za-z0-9_-]+$' });

const name = Type.String({ minLength: 1, maxLength: 120, format: 'name' });
const fileName = Type.String({ minLength: 1, maxLength: 255, format: 'fileName' });

export const nameBody = Type.Object({ name }, strict);

const swatch = Type.Object(
  { name, colour: Type.Unsafe<Colour>(Type.Array(Type.Number({ minimum: 0, maximum: 1 }), { minItems: 3, maxItems: 3 })) },
  strict,
);
/** By which the sender may ask again when an answer was lost, and have it made once; left out: each request makes one. */
const key = Type.Optional(word);
export const newNameBody = Type.Object({ key, name }, strict);
export const keyQuery = Type.Object({ key }, strict);
export const swatchBody = Type.Object({ key, ...swatch.properties }, strict);
export const paletteBody = Type.Object({ key, name, swatches: Type.Array(swatch, { maxItems: 1000 }) }, strict);

export const maskBody = Type.Object({ key, name, document: Type.Any() }, strict);

const abscissa = Type.Number({ minimum: -300, maximum: 300 });

/** Photographs of a shoot that are meant together. */
const photographs = Type.Array(Type.Integer({ minimum: 1 }), { minItems: 1, maxItems: 5000, uniqueItems: true });

export const changeBody = Type.Object(
  {
    photographs,
    change: Type.Union([
      Type.Object({ state: Type.Union([Type.Literal('untouched'), Type.Literal('in work'), Type.Literal('done')]) }, strict),
      Type.Object({ removed: Type.Boolean() }, strict),
      Type.Object({ shootId: Type.Integer({ minimum: 1 }) }, strict),
    ]),
  },
  strict,
);
export const fileNameBody = Type.Object({ name: fileName }, strict);

const patches = Type.Array(
  Type.Object(
    {
      op: Type.Union([Type.Literal('add'), Type.Literal('replace'), Type.Literal('remove')]),
      path: Type.Array(Type.Union([Type.String({ maxLength: 60 }), Type.Integer({ minimum: 0 })]), { maxItems: 60 }),
      value: Type.Optional(Type.Any()),
    },
    strict,
  ),
  { maxItems: 20_000 },
);
const entry = Type.Object({ id: word, label: Type.String({ minLength: 1, maxLength: 200 }), patches, inverse: patches }, strict);

const base = { base: Type.Integer({ minimum: 0 }), after: Type.Optional(Type.Union([word, Type.Null()])) };
export const sinceQuery = Type.Object(base, strict);

export const batchBody = Type.Object(
  {
    id: word,
    database: word,
    ...base,
    changes: Type.Array(
      Type.Union([
        Type.Object({ type: Type.Literal('edit'), entry }, strict),
        Type.Object({ type: Type.Literal('go'), from: Type.Integer({ minimum: 0 }), to: Type.Integer({ minimum: 0 }) }, strict),
      ]),
      { minItems: 1, maxItems: 1000 },
    ),
  },
  strict,
);

export const findingBody = Type.Object(
  {
    /** Made by the sender: asked for again, it is the same. */
    key: word,
    photographs,
  },
  strict,
);

export const carryBody = Type.Object(
  {
    /** Made by the sender: asked for again, it is the same. */
    key: word,
    from: Type.Union([
      Type.Object({ kind: Type.Literal('photograph'), id: Type.Integer({ minimum: 1 }) }, strict),
      Type.Object({ kind: Type.Literal('treatment'), id: word }, strict),
      Type.Object(
        {
          kind: Type.Literal('correction'),
          role: Type.Union([Type.Null(), ...ROLES.map(([role]) => Type.Literal(role))]),
          name,
          lab: Type.Object({ l: Type.Number({ minimum: 0, maximum: 100 }), a: abscissa, b: abscissa }, strict),
          tolerance: Type.Number({ minimum: 0.1, maximum: 50 }),
          by: Type.Union(adjustments.filter(({ dials }) => dials).map(({ kind }) => Type.Literal(kind))),
        },
        strict,
      ),
    ]),
    photographs,
    isTrial: Type.Boolean(),
    choice: Type.Object(
      {
        layers: Type.Union([Type.Literal('all'), Type.Array(word, { maxItems: 1000 })]),
        regions: Type.Boolean(),
        readings: Type.Boolean(),
        geometry: Type.Boolean(),
        solve: Type.Optional(Type.Array(word, { maxItems: 500 })),
        strength: Type.Optional(Type.Number({ minimum: 0, maximum: 1 })),
      },
      strict,
    ),
    how: Type.Union([Type.Literal('add'), Type.Literal('replace'), Type.Literal('changes'), Type.Literal('whole')]),
  },
  strict,
);
const note = Type.String({ maxLength: 2000 });
const solve = Type.Array(word, { maxItems: 500 });

/** Layers of a photograph that are kept as a treatment; `of`: as the next version of that one. */
export const treatmentBody = Type.Object(
  {
    /** Made by the sender: asked for again, it is the same. */
    key: word,
    photographId: Type.Integer({ minimum: 1 }),
    layers: Type.Array(word, { minItems: 1, maxItems: 500 }),
    ...{ solve, name, note },
    of: Type.Union([word, Type.Null()]),
  },
  strict,
);
export const treatmentChange = Type.Object({ name, note, solve }, strict);
const treatmentOfFile = Type.Object({ ...treatmentFileSchema.properties, name, note, solve }, strict);
export const treatmentFileBody = Type.Object({ key: word, file: treatmentOfFile }, strict);
export const letGoBody = Type.Object({ photographId: Type.Integer({ minimum: 1 }) }, strict);

/** Without a photograph: on all of them. */
export const takeBackBody = Type.Object({ photographId: Type.Union([Type.Integer({ minimum: 1 }), Type.Null()]) }, strict);

const pixels = Type.Integer({ minimum: 1, maximum: 30_000 });
const fileOptions = {
  format: Type.Unsafe<FileFormat>({ enum: fileFormatIds }),
  bits: Type.Union([Type.Literal(8), Type.Literal(16)]),
  space: Type.Unsafe<SpaceId | 'working'>({ enum: ['working', ...spaceIds] }),
  profile: Type.Optional(
    Type.Object(
      {
        id: Type.Integer({ minimum: 1 }),
        intent: Type.Unsafe<Intent>({ enum: ['perceptual', 'relative', 'saturation', 'absolute'] }),
        black: Type.Boolean(),
      },
      strict,
    ),
  ),
  dither: Type.Optional(Type.Boolean()),
  quality: Type.Integer({ minimum: 1, maximum: 100 }),
  atMost: Type.Optional(Type.Integer({ minimum: 1, maximum: 1_000_000 })),
  size: Type.Optional(
    Type.Union([
      Type.Object({ kind: Type.Literal('long'), pixels }, strict),
      Type.Object({ kind: Type.Literal('percent'), percent: Type.Number({ minimum: 1, maximum: 100 }) }, strict),
      Type.Object({ kind: Type.Literal('exact'), width: pixels, height: pixels }, strict),
    ]),
  ),
  sharpen: Type.Optional(Type.Union([Type.Literal('screen'), Type.Literal('print')])),
  metadata: Type.Optional(Type.Union([Type.Literal('all'), Type.Literal('rights'), Type.Literal('none')])),
  place: Type.Optional(Type.Boolean()),
};

export const handOverBody = Type.Object(
  {
    /** Made by the sender: the same hand-over asked for again is the same hand-over. */
    key: word,
    photographId: Type.Integer({ minimum: 1 }),
    /** One file for every alternative of every colourway set. */
    colourways: Type.Optional(Type.Boolean()),
    /** The mask of this layer instead of the picture. */
    maskOf: Type.Optional(word),
    options: Type.Object({ fileName, ...fileOptions }, strict),
  },
  strict,
);

const settings = {
  versions: Type.Union([Type.Literal('now'), Type.Literal('versions'), Type.Literal('both')]),
  colourways: Type.Boolean(),
  passed: Type.Optional(Type.Boolean()),
  pattern: Type.String({ minLength: 1, maxLength: 200, format: 'fileName' }),
  options: Type.Object(fileOptions, strict),
};
export const wishBody = Type.Object({ photographs, ...settings }, strict);
export const handOverBatchBody = Type.Object({ key: word, photographs, ...settings }, strict);
export const presetBody = Type.Object({ name, settings: Type.Object(settings, strict) }, strict);

export const previewsBody = Type.Object(
  {
    wanted: Type.Array(Type.Object({ id: Type.Integer({ minimum: 1 }), revision: Type.Integer({ minimum: 1 }) }, strict), {
      maxItems: 100,
    }),
  },
  strict,
);
