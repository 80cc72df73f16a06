import { KINDS, RIGHTS } from '@kindred/core/people/rights';
import { expect, it } from 'vitest';
import { opens } from './rights.ts';

it.each(KINDS.flatMap((kind) => RIGHTS[kind].map((action) => [kind, action] as const)))(
  'what “%s”, “%s” opens is said',
  (kind, action) => expect(opens(kind, action)).toMatch(/^[A-Z]/),
);
