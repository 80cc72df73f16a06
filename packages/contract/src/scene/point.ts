import { Type } from '@sinclair/typebox';

/** A place or a way, metres. */
export const Point = Type.Unsafe<readonly [number, number, number]>(
  Type.Tuple([Type.Number(), Type.Number(), Type.Number()]),
);
