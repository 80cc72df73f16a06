import { Type, type Static } from '@sinclair/typebox';
import { Edition, Id, Line, operation } from '../platform/operation.ts';

/** How somebody looks at the register: the filters as they stand in the address, columns in their order, what it is grouped by. */
export const RegisterViewDefinition = Type.Object(
  {
    filters: Type.Record(Type.String({ maxLength: 40 }), Type.String({ maxLength: 2000 })),
    columns: Type.Array(Type.String({ maxLength: 80 }), { maxItems: 40 }),
    groupBy: Type.String({ maxLength: 80 }),
  },
  { additionalProperties: false },
);
export type RegisterViewDefinition = Static<typeof RegisterViewDefinition>;

export const RegisterView = Type.Object({
  id: Id(),
  name: Type.String(),
  forAll: Type.Boolean(),
  owner: Type.String(),
  mine: Type.Boolean(),
  definition: RegisterViewDefinition,
  edition: Type.Integer(),
});
export type RegisterView = Static<typeof RegisterView>;

export const listRegisterViews = operation('listRegisterViews', {
  method: 'get',
  path: '/projects/:projectId/register-views',
  summary: 'Saved views of the register: those of the asker, and those offered to all',
  access: { kind: 'register', action: 'see' },
  response: Type.Array(RegisterView),
});
const body = { name: Line(80), forAll: Type.Boolean(), definition: RegisterViewDefinition };
export const addRegisterView = operation('addRegisterView', {
  method: 'post',
  path: '/projects/:projectId/register-views',
  summary: 'Save a view of the register',
  access: { kind: 'register', action: 'see' },
  body: Type.Object(body, { additionalProperties: false }),
  response: RegisterView,
});
export const changeRegisterView = operation('changeRegisterView', {
  method: 'put',
  path: '/projects/:projectId/register-views/:viewId',
  summary: 'Change a saved view of one’s own',
  access: { kind: 'register', action: 'see' },
  body: Type.Object({ ...body, edition: Edition() }, { additionalProperties: false }),
  response: RegisterView,
});
export const removeRegisterView = operation('removeRegisterView', {
  method: 'delete',
  path: '/projects/:projectId/register-views/:viewId',
  summary: 'Remove a saved view of one’s own',
  access: { kind: 'register', action: 'see' },
});
