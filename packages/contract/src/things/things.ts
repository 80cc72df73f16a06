/** What is asked of things of all kinds: where they are, what they are tied to, what happened to them. */
import { Type, type Static } from '@sinclair/typebox';
import { Id, Moment, Nullable, operation, Page, PageQuery } from '../platform/operation.ts';

export const Thing = Type.Object({
  type: Type.String(),
  id: Type.String(),
  title: Type.String(),
  note: Type.String(),
  /** Its page, from the root. */
  link: Type.String(),
  at: Moment(),
});
export type Thing = Static<typeof Thing>;

const Which = Type.Object({ type: Type.String({ maxLength: 40 }), id: Id() }, { additionalProperties: false });

export const jump = operation('jump', {
  method: 'get',
  path: '/projects/:projectId/jump',
  summary: 'Things of all kinds whose words match',
  access: 'member',
  query: Type.Object({ q: Type.String({ minLength: 1, maxLength: 100 }) }, { additionalProperties: false }),
  response: Type.Array(Thing),
});

export const listRelated = operation('listRelated', {
  method: 'get',
  path: '/projects/:projectId/related',
  summary: 'Everything related to a thing, newest first',
  access: 'member',
  query: Which,
  response: Type.Object({ title: Type.String(), items: Type.Array(Thing) }),
});

export const Happening = Type.Object({
  id: Type.Integer(),
  at: Moment(),
  /** Null where the application did it by itself. */
  actor: Nullable(Type.Object({ id: Id(), name: Type.String() })),
  /** A code; what it takes to say it in words stands in `before` and `after`. */
  verb: Type.String(),
  subjectType: Type.String(),
  subjectId: Type.String(),
  before: Type.Unknown(),
  after: Type.Unknown(),
});
export type Happening = Static<typeof Happening>;
export const listHistory = operation('listHistory', {
  method: 'get',
  path: '/projects/:projectId/history',
  summary: 'What happened to a thing, newest first',
  access: 'member',
  query: Type.Composite([Which, Type.Object(PageQuery)], { additionalProperties: false }),
  response: Page(Happening),
});
