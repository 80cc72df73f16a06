import { Type, type Static } from '@sinclair/typebox';
import { Edition, Id, Line, operation } from '../platform/operation.ts';

const Wanted = {
  name: Line(80),
  /** Numbers of the sheets that others see; the other sheets of a drawing are blank to them. */
  sheetNumbers: Type.Array(Line(80), { maxItems: 500 }),
  /** Viewpoints that others see; other viewpoints of the shared models stay with the team. */
  viewpointIds: Type.Array(Id(), { maxItems: 500 }),
};
export const ShareSet = Type.Object({ id: Id(), teamId: Id(), ...Wanted, edition: Type.Integer() });
export type ShareSet = Static<typeof ShareSet>;

export const listShareSets = operation('listShareSets', {
  method: 'get',
  path: '/projects/:projectId/share-sets',
  summary: 'The share sets of one’s own team',
  access: { kind: 'register', action: 'change' },
  response: Type.Array(ShareSet),
});
export const addShareSet = operation('addShareSet', {
  method: 'post',
  path: '/projects/:projectId/share-sets',
  summary: 'Name a choice of sheets and viewpoints that others get to see',
  access: { kind: 'register', action: 'change' },
  body: Type.Object({ teamId: Id(), ...Wanted }, { additionalProperties: false }),
  response: ShareSet,
});
export const changeShareSet = operation('changeShareSet', {
  method: 'put',
  path: '/projects/:projectId/share-sets/:shareSetId',
  summary: 'Change a share set; what was shared with it before stays as it was until it is shared again',
  access: { kind: 'register', action: 'change' },
  body: Type.Object({ ...Wanted, edition: Edition() }, { additionalProperties: false }),
  response: ShareSet,
});
export const removeShareSet = operation('removeShareSet', {
  method: 'delete',
  path: '/projects/:projectId/share-sets/:shareSetId',
  summary: 'Remove a share set',
  access: { kind: 'register', action: 'change' },
});
