import { Type, type Static } from '@sinclair/typebox';
import { Day, Id, Moment, Nullable, OneOf, operation, Page, PageQuery } from '../platform/operation.ts';

export const DESK_PILES = ['waiting for me', 'mine', 'new for me'] as const;
export const DeskItem = Type.Object({
  pile: OneOf(DESK_PILES),
  type: Type.String(),
  id: Type.String(),
  projectId: Id(),
  project: Type.String(),
  title: Type.String(),
  note: Type.String(),
  link: Type.String(),
  dueOn: Nullable(Day()),
  at: Moment(),
});
export type DeskItem = Static<typeof DeskItem>;
export const showDesk = operation('showDesk', {
  method: 'get',
  path: '/desk',
  summary: 'What is yours, waits for you and is new for you, in all your projects',
  access: 'signed in',
  response: Type.Array(DeskItem),
});

/** Filters of the audit trail. */
const Trail = {
  personId: Type.Optional(Id()),
  subjectType: Type.Optional(Type.String({ maxLength: 40 })),
  /** A part of what was done, or of what it was done to. */
  q: Type.Optional(Type.String({ maxLength: 100 })),
  from: Type.Optional(Moment()),
  before: Type.Optional(Moment()),
};
export const AuditEvent = Type.Object({
  id: Type.Integer(),
  at: Moment(),
  actor: Nullable(Type.Object({ id: Id(), name: Type.String() })),
  verb: Type.String(),
  subjectType: Type.String(),
  subjectId: Type.String(),
  /** Code, number or name of what it was done to, while it is there. */
  subject: Type.String(),
  before: Type.Unknown(),
  after: Type.Unknown(),
});
export type AuditEvent = Static<typeof AuditEvent>;
const trailQuery = Type.Object({ ...PageQuery, ...Trail }, { additionalProperties: false });
export type TrailQuery = Static<typeof trailQuery>;
export const listAuditTrail = operation('listAuditTrail', {
  method: 'get',
  path: '/projects/:projectId/audit-trail',
  summary: 'Who did what in the project and when, newest first',
  access: 'administrator',
  query: trailQuery,
  response: Page(AuditEvent),
});
export const exportAuditTrail = operation('exportAuditTrail', {
  costly: true,
  method: 'get',
  path: '/projects/:projectId/audit-trail-export',
  summary: 'The audit trail as CSV',
  access: 'administrator',
  query: Type.Object(Trail, { additionalProperties: false }),
  binary: true,
});
