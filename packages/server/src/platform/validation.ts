import { Ajv, type ErrorObject, type ValidateFunction } from 'ajv';
import formats from 'ajv-formats';
import type { Problem } from '@kindred/contract/platform/problem';
import type { TSchema } from '@sinclair/typebox';

const options = { strict: false, allErrors: false } as const;
const bodies = new Ajv({ ...options });
/** What goes out was made by us: its shape is checked, not the spelling of its dates. */
const answers = new Ajv({ ...options, validateFormats: false });
/** Queries and paths arrive as text. */
const texts = new Ajv({ ...options, coerceTypes: true });
formats.default(bodies);
formats.default(texts);

export const compileAnswer = (schema: TSchema): ValidateFunction => answers.compile(schema);
export const compileBody = (schema: TSchema): ValidateFunction => bodies.compile(schema);
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
