import { Type } from '@sinclair/typebox';
import { ACTIONS, KINDS, type Grid as CoreGrid } from '@kindred/core/people/rights';
import { OneOf } from './operation.ts';

/** The rights of a role. */
export const Grid = Type.Unsafe<CoreGrid>(
  Type.Object(
    Object.fromEntries(
      KINDS.map((kind) => [kind, Type.Optional(Type.Array(OneOf(ACTIONS), { maxItems: ACTIONS.length }))]),
    ),
    { additionalProperties: false },
  ),
);
