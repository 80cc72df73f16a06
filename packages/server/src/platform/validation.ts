import { Ajv, type ErrorObject, type ValidateFunction } from 'ajv';
import formats from 'ajv-formats';
import type { Problem } from '@kindred/contract/platform/problem';
import type { TSchema } from '@sinclair/typebox';

const options = { strict: false, allErrors: false } as const;
/** Bodies and answers. */
const documents = new Ajv({ ...options });
/** Queries and paths arrive as text. */
const texts = new Ajv({ ...options, coerceTypes: true });
formats.default(documents);
formats.default(texts);

export const compileDocument = (schema: TSchema): ValidateFunction => documents.compile(schema);
export const compileText = (schema: TSchema): ValidateFunction => texts.compile(schema);

export const fieldsOf = (errors: ErrorObject[] | null | undefined): NonNullable<Problem['fields']> =>
  (errors ?? []).map(({ instancePath, message, params }) => ({
    path:
      instancePath ||
      String(
        (params as { missingProperty?: string; additionalProperty?: string }).missingProperty ??
          (params as { additionalProperty?: string }).additionalProperty ??
          '',
      ),
    message: message ?? 'is not valid',
  }));
