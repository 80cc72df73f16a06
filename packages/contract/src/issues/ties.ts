/** What an issue is tied to: other issues, things of other kinds, elements, and versions that answer it. */
import { ISSUE_STATUSES } from '@kindred/core/issues/states';
import { Type, type Static } from '@sinclair/typebox';
import { Person } from '../identity/identity.ts';
import { Id, Line, Moment, Nullable, OneOf, operation, OptionalLine, Prose } from '../platform/operation.ts';
import { Thing } from '../things/things.ts';

/** As they are said of the issue that they begin at. */
export const ISSUE_RELATIONS = ['duplicate of', 'follows from', 'blocks'] as const;
export type IssueRelationKind = (typeof ISSUE_RELATIONS)[number];

export const IssueRelation = Type.Object({
  id: Id(),
  kind: OneOf(ISSUE_RELATIONS),
  /** It begins at the other issue. */
  back: Type.Boolean(),
  issue: Type.Object({ id: Id(), number: Type.Integer(), title: Type.String(), status: OneOf(ISSUE_STATUSES) }),
});
export type IssueRelation = Static<typeof IssueRelation>;

export const IssueElement = Type.Object(
  { versionId: Id(), globalId: Type.String({ minLength: 1, maxLength: 64 }), name: OptionalLine(200) },
  { additionalProperties: false },
);
export type IssueElement = Static<typeof IssueElement>;

export const IssueAnswer = Type.Object({
  versionId: Id(),
  containerId: Id(),
  code: Type.String(),
  versionNumber: Type.Integer(),
  by: Person,
  note: Type.String(),
  at: Moment(),
});
export type IssueAnswer = Static<typeof IssueAnswer>;

export const relateIssue = operation('relateIssue', {
  method: 'post',
  path: '/projects/:projectId/issues/:issueId/relations',
  summary: 'Say how an issue is related to another one',
  access: { kind: 'issues', action: 'add' },
  body: Type.Object({ kind: OneOf(ISSUE_RELATIONS), issueId: Id() }, { additionalProperties: false }),
  response: IssueRelation,
});
export const unrelateIssue = operation('unrelateIssue', {
  method: 'delete',
  path: '/projects/:projectId/issues/:issueId/relations/:relationId',
  summary: 'Take a relation of an issue away',
  access: { kind: 'issues', action: 'add' },
});

const Which = { type: Line(40), id: Id() };
export const tieIssue = operation('tieIssue', {
  method: 'post',
  path: '/projects/:projectId/issues/:issueId/things',
  summary: 'Tie an issue to a thing of any kind that you may see: a document, a markup, a review',
  access: { kind: 'issues', action: 'add' },
  body: Type.Object(Which, { additionalProperties: false }),
  response: Type.Array(Thing),
});
export const untieIssue = operation('untieIssue', {
  method: 'post',
  path: '/projects/:projectId/issues/:issueId/things/remove',
  summary: 'Untie an issue from a thing',
  access: { kind: 'issues', action: 'add' },
  body: Type.Object(Which, { additionalProperties: false }),
  response: Type.Array(Thing),
});

export const answerIssue = operation('answerIssue', {
  method: 'post',
  path: '/projects/:projectId/issues/:issueId/answers',
  summary: 'Say that a version answers an issue: whoever verifies it looks at both, side by side',
  access: { kind: 'issues', action: 'add' },
  body: Type.Object({ versionId: Id(), note: Type.Optional(Prose(1000)) }, { additionalProperties: false }),
  response: Type.Object({ number: Type.Integer(), status: OneOf(ISSUE_STATUSES), answer: Nullable(IssueAnswer) }),
});
