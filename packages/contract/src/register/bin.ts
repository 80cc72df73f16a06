/** Where containers stand, what they are called, and what is taken out of the register for a while. */
import { Type, type Static } from '@sinclair/typebox';
import { Id, Line, Moment, operation, Page, PageQuery, Prose } from '../platform/operation.ts';
import { Container } from './register.ts';

const Containers = Type.Array(Id(), { minItems: 1, maxItems: 1000, uniqueItems: true });

export const moveContainers = operation('moveContainers', {
  method: 'post',
  path: '/projects/:projectId/containers/moves',
  summary: 'Move containers to another folder, all or none; where that is another team’s home they become that team’s',
  access: { kind: 'register', action: 'change' },
  body: Type.Object({ containerIds: Containers, folderId: Id() }, { additionalProperties: false }),
  response: Type.Array(Container),
});

export const changeCode = operation('changeCode', {
  method: 'post',
  path: '/projects/:projectId/containers/:containerId/code',
  summary: 'Repair the code of a container; what was sent keeps the code that it was sent with',
  access: { kind: 'register', action: 'manage' },
  body: Type.Object({ code: Line(200), reason: Prose(500) }, { additionalProperties: false }),
  response: Container,
});

export const removeContainers = operation('removeContainers', {
  method: 'post',
  path: '/projects/:projectId/bin',
  summary:
    'Put containers into the bin, all or none; nothing that was published, sent, reviewed or asked about goes there',
  access: { kind: 'register', action: 'delete' },
  body: Type.Object({ containerIds: Containers, reason: Prose(500) }, { additionalProperties: false }),
});

export const BinItem = Type.Object({
  containerId: Id(),
  code: Type.String(),
  title: Type.String(),
  folder: Type.String(),
  versions: Type.Integer(),
  removedAt: Moment(),
  removedBy: Type.String(),
  reason: Type.String(),
  /** When it goes for good. */
  until: Moment(),
});
export type BinItem = Static<typeof BinItem>;

export const listBin = operation('listBin', {
  method: 'get',
  path: '/projects/:projectId/bin',
  summary: 'What lies in the bin, the latest first',
  access: { kind: 'register', action: 'delete' },
  query: Type.Object(PageQuery, { additionalProperties: false }),
  response: Page(BinItem),
});

export const restoreContainers = operation('restoreContainers', {
  method: 'post',
  path: '/projects/:projectId/bin/restore',
  summary: 'Take containers out of the bin, all or none: they stand where they stood, with all versions',
  access: { kind: 'register', action: 'delete' },
  body: Type.Object({ containerIds: Containers }, { additionalProperties: false }),
  response: Type.Array(Container),
});
