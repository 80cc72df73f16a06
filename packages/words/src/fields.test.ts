import { expect, it } from 'vitest';
import { fieldProblem } from './fields.ts';

it.each([
  ['required', {}, 'is missing'],
  ['minLength', { limit: 1 }, 'is empty'],
  ['minLength', { limit: 10 }, 'needs at least 10 characters'],
  ['maxItems', { limit: 500 }, 'has more than 500 entries'],
  ['minItems', { limit: 1 }, 'needs at least 1 entry'],
  ['format', { format: 'email' }, 'is not an e-mail address'],
  ['pattern', { pattern: '^x$' }, 'is empty, or holds signs that are not allowed here'],
  ['enum', { allowedValues: ['a', 'b'] }, 'is none of “a”, “b”'],
  ['type', { type: 'integer' }, 'has to be a whole number'],
  ['type', { type: ['string', 'null'] }, 'has to be text'],
  ['unheard of', {}, 'is not valid'],
])('%s %j', (keyword, params, words) => expect(fieldProblem(keyword, params)).toBe(words));
