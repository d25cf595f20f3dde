import 'server-only';
import { isFileName, isName, Problem } from '@umbo/core/base';
import type { Static, TSchema } from '@sinclair/typebox';
import { Ajv, type ErrorObject, type ValidateFunction } from 'ajv';

const ajv = new Ajv();
ajv.addFormat('name', isName);
ajv.addFormat('fileName', isFileName);

const compiled = new WeakMap<TSchema, ValidateFunction>();

/** What parts of a request are called in sentences, by the last word of their path. */
const WORDS: Record<string, string> = { fileName: 'file name', photographId: 'photograph', maskOf: 'layer', swatches: 'colours' };

/** What a request may not be, as a sentence for people. */
function sentenceOf({ instancePath, keyword, params }: ErrorObject): string {
  const last = instancePath.split('/').findLast((part) => part !== '' && !/^\d+$/.test(part));
  const subject = last === undefined ? 'request' : (WORDS[last] ?? last);
  const value = params as Record<string, unknown>;
  if (keyword === 'format')
    return value.format === 'fileName'
      ? `The ${subject} needs something to see, without slashes and characters that cannot be seen.`
      : `The ${subject} needs something to see, without characters that cannot be seen.`;
  if (keyword === 'minLength') return `The ${subject} is empty.`;
  if (keyword === 'maxLength') return `The ${subject} is longer than ${String(value.limit)} characters.`;
  if (keyword === 'minItems') return `The request names no ${subject}.`;
  if (keyword === 'maxItems') return `The ${subject} are more than ${String(value.limit)}.`;
  if (keyword === 'required') return `The ${WORDS[String(value.missingProperty)] ?? String(value.missingProperty)} is missing.`;
  if (keyword === 'additionalProperties') return `The request says “${String(value.additionalProperty)}”, which means nothing here.`;
  return `The ${subject} is not of the right kind.`;
}

/** @throws Problem 'invalid' with a sentence */
export function checked<T extends TSchema>(value: unknown, schema: T): Static<T> {
  let validate = compiled.get(schema);
  if (!validate) compiled.set(schema, (validate = ajv.compile(schema)));
  if (!validate(value)) throw new Problem('invalid', sentenceOf(validate.errors![0]!));
  return value as Static<T>;
}
