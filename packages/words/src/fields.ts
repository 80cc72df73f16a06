/** What is wrong with a part of a request, by the rule of its schema (JSON Schema) that it breaks. */
type Params = Record<string, unknown>;

const FORMATS: Record<string, string> = {
  email: 'is not an e-mail address',
  uuid: 'is not the id of anything',
  date: 'is not a day such as 2026-05-30',
  'date-time': 'is not a moment such as 2026-05-30T09:00:00Z',
};
const KINDS: Record<string, string> = {
  string: 'has to be text',
  integer: 'has to be a whole number',
  number: 'has to be a number',
  boolean: 'has to be true or false',
  array: 'has to be a list',
  object: 'has to be an object',
  null: 'has to be absent',
};
const count = (n: unknown, one: string): string => `${String(n)} ${one}${n === 1 ? '' : 's'}`;

const SAY: Record<string, (params: Params) => string> = {
  required: () => 'is missing',
  additionalProperties: () => 'is not known here',
  type: ({ type }) => KINDS[[type].flat()[0] as string] ?? 'has the wrong form',
  minLength: ({ limit }) => (limit === 1 ? 'is empty' : `needs at least ${count(limit, 'character')}`),
  maxLength: ({ limit }) => `has more than ${count(limit, 'character')}`,
  minimum: ({ limit }) => `is less than ${String(limit)}`,
  maximum: ({ limit }) => `is more than ${String(limit)}`,
  minItems: ({ limit }) => `needs at least ${count(limit, 'entry').replace('entrys', 'entries')}`,
  maxItems: ({ limit }) => `has more than ${count(limit, 'entry').replace('entrys', 'entries')}`,
  uniqueItems: () => 'holds the same twice',
  enum: ({ allowedValues }) =>
    `is none of ${(allowedValues as unknown[]).map((value) => `“${String(value)}”`).join(', ')}`,
  const: ({ allowedValue }) => `has to be “${String(allowedValue)}”`,
  format: ({ format }) => FORMATS[format as string] ?? 'has the wrong form',
  pattern: () => 'is empty, or holds signs that are not allowed here',
};

/** Follows the name of the part: “email” is not an e-mail address. */
export const fieldProblem = (keyword: string, params: Params): string => SAY[keyword]?.(params) ?? 'is not valid';
