import { Type, type Static } from '@sinclair/typebox';

/** RFC 9457 problem details with a stable `code`. */
export const Problem = Type.Object({
  type: Type.String(),
  code: Type.String(),
  title: Type.String(),
  status: Type.Integer(),
  detail: Type.String(),
  fields: Type.Optional(Type.Array(Type.Object({ path: Type.String(), message: Type.String() }))),
});
export type Problem = Static<typeof Problem>;
