import { Type, type Static } from '@sinclair/typebox';
import { MAIL_WAYS, NOTICE_KINDS, type MailChoices as CoreMailChoices } from '@kindred/core/platform/notices';
import { Person } from '../identity/identity.ts';
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

const Choices = Type.Unsafe<CoreMailChoices>(
  Type.Object(Object.fromEntries(NOTICE_KINDS.map((kind) => [kind, OneOf(MAIL_WAYS)])), {
    additionalProperties: false,
  }),
);
export const showMailChoices = operation('showMailChoices', {
  method: 'get',
  path: '/mail-choices',
  summary: 'How mail reaches you, for each kind of notice',
  access: 'signed in',
  response: Choices,
});
export const changeMailChoices = operation('changeMailChoices', {
  method: 'put',
  path: '/mail-choices',
  summary: 'Choose how mail reaches you: at once, in one letter a day, or not at all',
  access: 'signed in',
  body: Choices,
  response: Choices,
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
  actor: Nullable(Person),
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
  method: 'get',
  path: '/projects/:projectId/audit-trail-export',
  summary: 'The audit trail as CSV',
  access: 'administrator',
  query: Type.Object(Trail, { additionalProperties: false }),
  binary: true,
});

/** Files delivered in one week by one team, and how many of their names did not conform when they arrived. */
export const DeliveryWeek = Type.Object({
  week: Day(),
  teamId: Nullable(Id()),
  files: Type.Integer(),
  misnamed: Type.Integer(),
});
export type DeliveryWeek = Static<typeof DeliveryWeek>;
export const listDeliveryWeeks = operation('listDeliveryWeeks', {
  method: 'get',
  path: '/projects/:projectId/delivery-weeks',
  summary: 'Files delivered per week and team, and how many names did not conform',
  access: { kind: 'register', action: 'see' },
  response: Type.Array(DeliveryWeek),
});
