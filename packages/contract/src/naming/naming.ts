import { Type, type Static } from '@sinclair/typebox';
import type { Convention as CoreConvention } from '@kindred/core/naming/convention';
import { Id, Line, operation } from '../platform/operation.ts';

const Field = Type.Object({
  name: Type.String(),
  kind: Type.String(),
  values: Type.Optional(Type.Array(Type.Object({ code: Type.String(), meaning: Type.String() }))),
  length: Type.Optional(Type.Integer()),
  pattern: Type.Optional(Type.String()),
  minLength: Type.Optional(Type.Integer()),
  maxLength: Type.Optional(Type.Integer()),
});
const Definition = Type.Unsafe<CoreConvention>(
  Type.Object({ name: Type.String(), separator: Type.String(), fields: Type.Array(Field) }),
);
const Code = Type.Object({ code: Type.String(), meaning: Type.String() });
export type Code = Static<typeof Code>;

export const showNaming = operation('showNaming', {
  method: 'get',
  path: '/projects/:projectId/naming',
  summary: 'The naming convention of a project and its status and classification codes',
  access: 'member',
  response: Type.Object({
    id: Id(),
    convention: Definition,
    statuses: Type.Array(Code),
    classifications: Type.Array(Code),
  }),
});
export type Naming = Static<typeof showNaming.response>;

export const addNamingValue = operation('addNamingValue', {
  method: 'post',
  path: '/projects/:projectId/naming/values',
  summary: 'Add an allowed value to a list field; always safe for existing names',
  access: { kind: 'naming', action: 'change' },
  body: Type.Object(
    { field: Line(60), code: Type.String({ pattern: '^[A-Za-z0-9]{1,12}$' }), meaning: Line(120) },
    { additionalProperties: false },
  ),
  response: Definition,
});
