/** Clashes: what is in each other's way in the models of a federation, by rules that run by themselves. */
import { CLASH_IGNORES, CLASH_KINDS } from '@kindred/core/clash/rule';
import { CLASH_STATES } from '@kindred/core/clash/states';
import { ISSUE_STATUSES } from '@kindred/core/issues/states';
import { Type, type Static } from '@sinclair/typebox';
import { Person } from '../identity/identity.ts';
import { Day, Edition, Id, Line, Moment, Nullable, OneOf, operation, Page, PageQuery } from '../platform/operation.ts';
import { Condition } from '../scene/element-filters.ts';
import { Point } from '../scene/point.ts';

const strict = { additionalProperties: false } as const;
const see = { kind: 'scene', action: 'see' } as const;
const keep = { kind: 'scene', action: 'add' } as const;
const decide = { kind: 'issues', action: 'add' } as const;

/** Without conditions: everything; of a line-up for everyone, what it shows. */
const ElementSet = Type.Object(
  {
    match: OneOf(['all', 'any'] as const),
    conditions: Type.Array(Condition, { maxItems: 20 }),
    lineUpId: Type.Optional(Nullable(Id())),
  },
  strict,
);
const RuleContent = {
  a: ElementSet,
  b: ElementSet,
  kinds: Type.Array(OneOf(CLASH_KINDS), { minItems: 1, maxItems: 3, uniqueItems: true }),
  /** Metres. */
  tolerance: Type.Number({ minimum: 0, maximum: 10 }),
  clearance: Type.Number({ minimum: 0, maximum: 10 }),
  ignores: Type.Array(OneOf(CLASH_IGNORES), { maxItems: CLASH_IGNORES.length, uniqueItems: true }),
};
const Counts = Type.Object({
  new: Type.Integer(),
  standing: Type.Integer(),
  back: Type.Integer(),
  gone: Type.Integer(),
  /** Of those that are there, accepted ones; they are in no other count. */
  accepted: Type.Integer(),
});
export type ClashCounts = Static<typeof Counts>;

export const RUN_STATUSES = ['waiting', 'running', 'ready', 'cancelled', 'failed'] as const;
export const ClashRun = Type.Object({
  id: Id(),
  status: OneOf(RUN_STATUSES),
  /** Pairs of models, and how many of them are done. */
  pairs: Type.Integer(),
  done: Type.Integer(),
  note: Type.String(),
  askedAt: Moment(),
  endedAt: Nullable(Moment()),
  /** Null until it is ready, or where you do not see all of its models. */
  counts: Nullable(Counts),
});
export type ClashRun = Static<typeof ClashRun>;

export const ClashRule = Type.Object({
  id: Id(),
  federationId: Id(),
  federation: Type.String(),
  name: Type.String(),
  ...RuleContent,
  edition: Edition(),
  /** The last one. */
  run: Nullable(ClashRun),
  /** Of the clashes that you see. */
  counts: Counts,
});
export type ClashRule = Static<typeof ClashRule>;

const Element = Type.Object({
  versionId: Id(),
  containerId: Id(),
  globalId: Type.String(),
  class: Type.String(),
  name: Type.String(),
  type: Type.String(),
  storey: Type.String(),
});
export const Clash = Type.Object({
  id: Id(),
  number: Type.Integer(),
  groupId: Id(),
  kind: OneOf(CLASH_KINDS),
  state: OneOf(CLASH_STATES),
  a: Element,
  b: Element,
  /** Metres; null where it is not known or there is none. */
  depth: Nullable(Type.Number()),
  gap: Nullable(Type.Number()),
  at: Point,
  /** When it was found first. */
  since: Moment(),
  accepted: Nullable(Type.Object({ by: Person, at: Moment(), reason: Type.String(), until: Nullable(Day()) })),
  assignee: Nullable(Person),
  /** Null where none was raised, or you do not see it. */
  issue: Nullable(Type.Object({ id: Id(), number: Type.Integer(), status: OneOf(ISSUE_STATUSES) })),
});
export type Clash = Static<typeof Clash>;
export const ClashGroup = Type.Object({ id: Id(), number: Type.Integer(), name: Type.String() });
export type ClashGroup = Static<typeof ClashGroup>;

export const listClashRules = operation('listClashRules', {
  method: 'get',
  path: '/projects/:projectId/clash-rules',
  summary: 'Rules of clashes with how their last run ended, by federation and name',
  access: see,
  response: Type.Array(ClashRule),
});
export const addClashRule = operation('addClashRule', {
  method: 'post',
  path: '/projects/:projectId/clash-rules',
  summary: 'Add a rule to a federation; it runs at once, and again whenever a version enters',
  access: keep,
  body: Type.Object({ federationId: Id(), name: Line(80), ...RuleContent }, strict),
  response: ClashRule,
});
export const changeClashRule = operation('changeClashRule', {
  method: 'put',
  path: '/projects/:projectId/clash-rules/:ruleId',
  summary: 'Change a rule; it runs again, and what was decided of its clashes stays',
  access: keep,
  body: Type.Object({ edition: Edition(), name: Line(80), ...RuleContent }, strict),
  response: ClashRule,
});
export const removeClashRule = operation('removeClashRule', {
  method: 'delete',
  path: '/projects/:projectId/clash-rules/:ruleId',
  summary: 'Remove a rule with its clashes; issues that were raised from them stay',
  access: keep,
});
export const startClashRun = operation('startClashRun', {
  method: 'post',
  path: '/projects/:projectId/clash-rules/:ruleId/runs',
  summary: 'Run a rule; what is done already of a run that was stopped is kept',
  access: see,
  costly: true,
  response: ClashRun,
});
export const cancelClashRun = operation('cancelClashRun', {
  method: 'post',
  path: '/projects/:projectId/clash-rules/:ruleId/runs/cancel',
  summary: 'Stop the run of a rule; the results before it stay',
  access: see,
  response: ClashRun,
});
export const listClashRuns = operation('listClashRuns', {
  method: 'get',
  path: '/projects/:projectId/clash-rules/:ruleId/runs',
  summary: 'Runs of a rule, newest first',
  access: see,
  query: Type.Object(PageQuery, strict),
  response: Page(ClashRun),
});
export const listClashGroups = operation('listClashGroups', {
  method: 'get',
  path: '/projects/:projectId/clash-rules/:ruleId/groups',
  summary: 'Groups of clashes that have one cause, of those that you see',
  access: see,
  response: Type.Array(ClashGroup),
});
export const listClashes = operation('listClashes', {
  method: 'get',
  path: '/projects/:projectId/clash-rules/:ruleId/clashes',
  summary: 'Clashes of a rule in the models that you see',
  access: see,
  query: Type.Object(
    {
      after: PageQuery.after,
      limit: Type.Optional(Type.Integer({ minimum: 1, maximum: 2000 })),
    },
    strict,
  ),
  response: Page(Clash),
});
export const decideClashes = operation('decideClashes', {
  method: 'post',
  path: '/projects/:projectId/clash-rules/:ruleId/decisions',
  summary: 'Accept clashes with a reason, take that back, say who sees to them, or which issue they led to',
  access: decide,
  body: Type.Object(
    {
      clashIds: Type.Array(Id(), { minItems: 1, maxItems: 5000, uniqueItems: true }),
      accepted: Type.Optional(Nullable(Type.Object({ reason: Line(500), until: Nullable(Day()) }, strict))),
      assigneeId: Type.Optional(Nullable(Id())),
      issueId: Type.Optional(Nullable(Id())),
    },
    strict,
  ),
});
export const listClashesOfIssue = operation('listClashesOfIssue', {
  method: 'get',
  path: '/projects/:projectId/issues/:issueId/clashes',
  summary: 'The clashes that an issue was raised from, of those that you see: there still, or gone',
  access: see,
  response: Type.Array(Type.Object({ ruleId: Id(), rule: Type.String(), clash: Clash, goneAt: Nullable(Moment()) })),
});
