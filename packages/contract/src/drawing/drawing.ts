import { Type, type Static } from '@sinclair/typebox';
import { Id, operation } from '../platform/operation.ts';

/** Width and height in points, as displayed. */
export const Sheet = Type.Object({
  id: Id(),
  page: Type.Integer(),
  label: Type.String(),
  width: Type.Number(),
  height: Type.Number(),
});
export type Sheet = Static<typeof Sheet>;

export const listSheets = operation('listSheets', {
  method: 'get',
  path: '/projects/:projectId/versions/:versionId/sheets',
  summary: 'The sheets of a version of a drawing',
  access: { kind: 'register', action: 'see' },
  response: Type.Array(Sheet),
});
