import { Type, type Static } from '@sinclair/typebox';
import { ISSUE_PRIORITIES, ISSUE_STATUSES, ISSUE_TYPES } from '@kindred/core/issues/states';
import { Person } from '../identity/identity.ts';
import { UploadId } from '../register/uploads.ts';
import { Viewpoint } from '../scene/scene.ts';
import {
  Day,
  Edition,
  Id,
  Line,
  Moment,
  Nullable,
  OneOf,
  operation,
  OptionalLine,
  Page,
  PageQuery,
  Prose,
} from '../platform/operation.ts';

const Place = Type.Object(
  { versionId: Id(), page: Type.Integer({ minimum: 1 }), x: Type.Number(), y: Type.Number() },
  { additionalProperties: false },
);

export const Issue = Type.Object({
  id: Id(),
  number: Type.Integer(),
  title: Type.String(),
  description: Type.String(),
  type: OneOf(ISSUE_TYPES),
  priority: OneOf(ISSUE_PRIORITIES),
  status: OneOf(ISSUE_STATUSES),
  assignee: Nullable(Person),
  author: Person,
  dueOn: Nullable(Day()),
  viewpointId: Nullable(Id()),
  place: Nullable(Place),
  /** The markup that it was raised from. */
  markupId: Nullable(Id()),
  comments: Type.Integer(),
  edition: Edition(),
  createdAt: Moment(),
  updatedAt: Moment(),
});
export type Issue = Static<typeof Issue>;

export const IssueComment = Type.Object({ id: Id(), author: Person, text: Type.String(), at: Moment() });
export type IssueComment = Static<typeof IssueComment>;

export const listIssues = operation('listIssues', {
  method: 'get',
  path: '/projects/:projectId/issues',
  summary: 'Issues, newest first',
  access: { kind: 'issues', action: 'see' },
  query: Type.Object(
    {
      ...PageQuery,
      q: Type.Optional(Type.String({ maxLength: 100 })),
      status: Type.Optional(OneOf(ISSUE_STATUSES)),
      assigneeId: Type.Optional(Id()),
      versionId: Type.Optional(Id()),
      /** Raised from this markup, on whichever version of its drawing. */
      markupId: Type.Optional(Id()),
    },
    { additionalProperties: false },
  ),
  response: Page(Issue),
});
export const raiseIssue = operation('raiseIssue', {
  method: 'post',
  path: '/projects/:projectId/issues',
  summary: 'Raise an issue at a viewpoint, at a point of a sheet, or nowhere; the assignee is told',
  access: { kind: 'issues', action: 'add' },
  body: Type.Object(
    {
      title: Line(200),
      description: Type.Optional(Prose()),
      type: OneOf(ISSUE_TYPES),
      priority: OneOf(ISSUE_PRIORITIES),
      assigneeId: Type.Optional(Nullable(Id())),
      dueOn: Type.Optional(Nullable(Day())),
      viewpointId: Type.Optional(Nullable(Id())),
      place: Type.Optional(Nullable(Place)),
      markupId: Type.Optional(Nullable(Id())),
      /** Pictures that were sent for it. */
      pictures: Type.Optional(
        Type.Array(Type.Object({ uploadId: UploadId, caption: OptionalLine(200) }, { additionalProperties: false }), {
          maxItems: 8,
        }),
      ),
    },
    { additionalProperties: false },
  ),
  response: Issue,
});
export const showIssue = operation('showIssue', {
  method: 'get',
  path: '/projects/:projectId/issues/:issueId',
  summary: 'An issue with its comments and its viewpoint',
  access: { kind: 'issues', action: 'see' },
  response: Type.Object({
    issue: Issue,
    comments: Type.Array(IssueComment),
    viewpoint: Nullable(Viewpoint),
    /** The drawing of its place; null for none, or one that whoever asks does not get. */
    sheet: Nullable(Type.Object({ containerId: Id(), code: Type.String(), versionNumber: Type.Integer() })),
    markup: Nullable(Type.Object({ id: Id(), number: Type.Integer(), text: Type.String() })),
    pictures: Type.Array(Type.Object({ position: Type.Integer(), caption: Type.String() })),
  }),
});
export type IssueView = Static<typeof showIssue.response>;
export const showIssuePicture = operation('showIssuePicture', {
  method: 'get',
  path: '/projects/:projectId/issues/:issueId/pictures/:position',
  summary: 'A picture of what it looked like where the issue was raised',
  access: { kind: 'issues', action: 'see' },
  params: Type.Object({ position: Type.String({ pattern: '^[1-9][0-9]{0,2}$' }) }),
  binary: true,
});
export const changeIssue = operation('changeIssue', {
  method: 'patch',
  path: '/projects/:projectId/issues/:issueId',
  summary: 'Change fields of an issue, or its status by an action with a reason',
  access: { kind: 'issues', action: 'add' },
  body: Type.Object(
    {
      edition: Edition(),
      title: Type.Optional(Line(200)),
      description: Type.Optional(Prose()),
      priority: Type.Optional(OneOf(ISSUE_PRIORITIES)),
      assigneeId: Type.Optional(Nullable(Id())),
      dueOn: Type.Optional(Nullable(Day())),
      action: Type.Optional(OneOf(['take in hand', 'answer', 'close', 'reopen', 'void'] as const)),
      reason: Type.Optional(Prose(1000)),
    },
    { additionalProperties: false },
  ),
  response: Issue,
});
export const commentIssue = operation('commentIssue', {
  method: 'post',
  path: '/projects/:projectId/issues/:issueId/comments',
  summary: 'Comment on an issue',
  access: { kind: 'issues', action: 'add' },
  body: Type.Object(
    { text: Type.String({ minLength: 1, maxLength: 10_000, pattern: '\\S' }) },
    { additionalProperties: false },
  ),
  response: IssueComment,
});
