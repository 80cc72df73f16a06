import { Ajv, type ErrorObject, type ValidateFunction } from 'ajv';
import formats from 'ajv-formats';
import { fieldProblem } from '@kindred/words/fields';
import type { Problem } from '@kindred/contract/platform/problem';
import type { TSchema } from '@sinclair/typebox';

const options = { strict: false, allErrors: false } as const;
/** Bodies and answers. */
const documents = new Ajv({ ...options });
/** Queries and paths arrive as text. */
const texts = new Ajv({ ...options, coerceTypes: true });
formats.default(documents);
formats.default(texts);

type Errors = ErrorObject[] | null | undefined;
/** Answers what is wrong; undefined where nothing is. Texts become the numbers and booleans that the schema wants. */
export type Validate = (value: unknown) => Errors;

/** Compiled when it is first needed: all of them together would take a third of the start. */
function lazily(ajv: Ajv, schema: TSchema): Validate {
  let compiled: ValidateFunction | undefined;
  return (value) => {
    compiled ??= ajv.compile(schema);
    return compiled(value) ? undefined : compiled.errors;
  };
}
export const compileDocument = (schema: TSchema): Validate => lazily(documents, schema);
export const compileText = (schema: TSchema): Validate => lazily(texts, schema);

/** A request can be wrong in thousands of places; nobody reads more than these. */
const MOST_NAMED = 20;

export const fieldsOf = (errors: Errors): NonNullable<Problem['fields']> =>
  (errors ?? []).slice(0, MOST_NAMED).map(({ instancePath, keyword, params }) => {
    const { missingProperty, additionalProperty } = params as { missingProperty?: string; additionalProperty?: string };
    const part = missingProperty ?? additionalProperty;
    return {
      path: part === undefined ? instancePath : `${instancePath}/${part.slice(0, 80)}`,
      message: fieldProblem(keyword, params as Record<string, unknown>),
    };
  });
