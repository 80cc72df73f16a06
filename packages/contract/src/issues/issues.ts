import { ISSUE_FIELDS } from '@kindred/core/issues/may-change';
import { ISSUE_ACTIONS, ISSUE_STATUSES } from '@kindred/core/issues/states';
import { Type, type Static, type TObject } from '@sinclair/typebox';
import { Person } from '../identity/identity.ts';
import { UploadId } from '../register/uploads.ts';
import { Viewpoint, ViewpointToAdd } from '../scene/scene.ts';
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
import { IssueComment } from './comments.ts';
import { IssueAnswer, IssueElement, IssueRelation } from './ties.ts';
import { IssueWord } from './settings.ts';
import { Thing } from '../things/things.ts';

/** A point of a page, in its points; or a file as a whole, without a page. */
const Place = Type.Object(
  {
    versionId: Id(),
    page: Nullable(Type.Integer({ minimum: 1 })),
    x: Type.Number(),
    y: Type.Number(),
    /** Pixels a point, where somebody looked at it. */
    zoom: Type.Optional(Nullable(Type.Number({ exclusiveMinimum: 0, maximum: 1000 }))),
  },
  { additionalProperties: false },
);

/** Who has to answer: a person, whoever is in a team, or whoever has a role. */
export const RESPONSIBLE_KINDS = ['person', 'team', 'role'] as const;
export const ResponsibleRef = Type.Object(
  { kind: OneOf(RESPONSIBLE_KINDS), id: Id() },
  { additionalProperties: false },
);
export type ResponsibleRef = Static<typeof ResponsibleRef>;
export const Responsible = Type.Object({
  kind: OneOf(RESPONSIBLE_KINDS),
  id: Id(),
  name: Type.String(),
  person: Nullable(Person),
});
export type Responsible = Static<typeof Responsible>;

export const Issue = Type.Object({
  id: Id(),
  number: Type.Integer(),
  title: Type.String(),
  description: Type.String(),
  type: Type.String(),
  priority: Type.String(),
  status: OneOf(ISSUE_STATUSES),
  responsible: Nullable(Responsible),
  /** Who looks at the answer before it is closed; whoever raised it where nobody is named. */
  verifier: Nullable(Person),
  author: Person,
  /** Who wrote it in another program; its author here brought it in. */
  writtenBy: Nullable(Type.String()),
  dueOn: Nullable(Day()),
  labels: Type.Array(Type.String()),
  viewpointId: Nullable(Id()),
  place: Nullable(Place),
  /** The markup that it was raised from. */
  markupId: Nullable(Id()),
  /** Pictures that belong to it. */
  pictures: Type.Integer(),
  comments: Type.Integer(),
  edition: Edition(),
  createdAt: Moment(),
  updatedAt: Moment(),
  answeredAt: Nullable(Moment()),
  closedAt: Nullable(Moment()),
});
export type Issue = Static<typeof Issue>;

/** Several values are separated by commas. */
const Several = () => Type.Optional(Type.String({ maxLength: 2000 }));
const Whom = () =>
  Type.Optional(
    Type.String({ pattern: '^(?:me|nobody|[0-9a-f-]{36})(?:,(?:me|nobody|[0-9a-f-]{36}))*$', maxLength: 2000 }),
  );
/** What a list of issues can be narrowed by; the same in lists, counts, charts, exports and saved views. */
export const IssueFilters = {
  q: Type.Optional(Type.String({ maxLength: 100 })),
  status: Several(),
  type: Several(),
  priority: Several(),
  /** `-` for those without any. */
  label: Several(),
  /** Ids of people, teams or roles; `me` also through a team or role. */
  responsible: Whom(),
  /** Teams: their own, and those of the people who are responsible. */
  team: Whom(),
  raisedBy: Whom(),
  verifier: Whom(),
  /** What the asker has to do about it. */
  part: Type.Optional(OneOf(['answer', 'verify', 'watch'] as const)),
  dueFrom: Type.Optional(Day()),
  dueTo: Type.Optional(Day()),
  overdue: Type.Optional(Type.Boolean()),
  raisedFrom: Type.Optional(Day()),
  raisedTo: Type.Optional(Day()),
  changedFrom: Type.Optional(Moment()),
  /** Its place lies on this version, or on any version of this container. */
  versionId: Type.Optional(Id()),
  containerId: Type.Optional(Id()),
  /** Raised from this markup, on whichever version of its drawing. */
  markupId: Type.Optional(Id()),
};
export type IssueFilters = Static<TObject<typeof IssueFilters>>;

export const ISSUE_SORTS = [
  'number',
  'title',
  'type',
  'priority',
  'status',
  'dueOn',
  'createdAt',
  'updatedAt',
] as const;
export type IssueSort = (typeof ISSUE_SORTS)[number];
export const ISSUE_GROUPS = ['status', 'type', 'priority', 'responsible', 'team', 'label', 'raisedBy'] as const;
export type IssueGroupBy = (typeof ISSUE_GROUPS)[number];

export const listIssues = operation('listIssues', {
  method: 'get',
  path: '/projects/:projectId/issues',
  summary: 'Issues, filtered, sorted, a page at a time; the newest first where nothing is said',
  access: { kind: 'issues', action: 'see' },
  query: Type.Object(
    {
      ...PageQuery,
      ...IssueFilters,
      sort: Type.Optional(OneOf(ISSUE_SORTS)),
      descending: Type.Optional(Type.Boolean()),
    },
    { additionalProperties: false },
  ),
  response: Page(Issue),
});

/** `label`: what to call the value, where it is an id; empty values stand for none. */
export const IssueGroup = Type.Object({ value: Type.String(), label: Type.String(), count: Type.Integer() });
export type IssueGroup = Static<typeof IssueGroup>;
export const groupIssues = operation('groupIssues', {
  method: 'get',
  path: '/projects/:projectId/issue-groups',
  summary: 'How many issues there are of each value of a field, under the same filters',
  access: { kind: 'issues', action: 'see' },
  query: Type.Object({ ...IssueFilters, by: OneOf(ISSUE_GROUPS) }, { additionalProperties: false }),
  response: Type.Array(IssueGroup),
});

const Pictures = Type.Array(
  Type.Object({ uploadId: UploadId, caption: OptionalLine(200) }, { additionalProperties: false }),
  {
    maxItems: 8,
  },
);
const Labels = Type.Array(IssueWord(), { maxItems: 20, uniqueItems: true });
export const raiseIssue = operation('raiseIssue', {
  method: 'post',
  path: '/projects/:projectId/issues',
  largestBody: 24_000_000,
  summary: 'Raise an issue at a viewpoint, at a point of a sheet, on a file, or nowhere; whoever has to answer is told',
  access: { kind: 'issues', action: 'add' },
  body: Type.Object(
    {
      title: Line(200),
      description: Type.Optional(Prose()),
      type: IssueWord(),
      priority: IssueWord(),
      responsible: Type.Optional(Nullable(ResponsibleRef)),
      verifierId: Type.Optional(Nullable(Id())),
      watcherIds: Type.Optional(Type.Array(Id(), { maxItems: 50, uniqueItems: true })),
      dueOn: Type.Optional(Nullable(Day())),
      labels: Type.Optional(Labels),
      /** One that is there already, or a new one, which is kept together with the issue or not at all. */
      viewpointId: Type.Optional(Nullable(Id())),
      viewpoint: Type.Optional(ViewpointToAdd),
      place: Type.Optional(Nullable(Place)),
      markupId: Type.Optional(Nullable(Id())),
      elements: Type.Optional(Type.Array(IssueElement, { maxItems: 500 })),
      /** Things that it is about: a review, a clash rule, another document. */
      things: Type.Optional(
        Type.Array(Type.Object({ type: Type.String({ maxLength: 40 }), id: Id() }, { additionalProperties: false }), {
          maxItems: 50,
        }),
      ),
      /** Pictures that were sent for it. */
      pictures: Type.Optional(Pictures),
    },
    { additionalProperties: false },
  ),
  response: Issue,
});

export const showIssue = operation('showIssue', {
  method: 'get',
  path: '/projects/:projectId/issues/:issueId',
  summary: 'An issue with everything that belongs to it, its newest comments, and what you may do',
  access: { kind: 'issues', action: 'see' },
  response: Type.Object({
    issue: Issue,
    /** Fields that you may change, and steps that you may take now. */
    may: Type.Array(Type.String()),
    /** Steps that want a reason, and those that want a proof. */
    wants: Type.Object({ reason: Type.Array(OneOf(ISSUE_ACTIONS)), proof: Type.Array(OneOf(ISSUE_ACTIONS)) }),
    watchers: Type.Array(Person),
    comments: Type.Array(IssueComment),
    /** Goes on to what was said before. */
    earlier: Nullable(Type.String()),
    viewpoint: Nullable(Viewpoint),
    /** Models of the viewpoint: the versions that it was raised on, and those that are current. */
    models: Type.Array(
      Type.Object({
        containerId: Id(),
        title: Type.String(),
        versionId: Id(),
        number: Type.Integer(),
        current: Type.Object({ versionId: Id(), number: Type.Integer() }),
      }),
    ),
    /** The drawing of its place; null for none, or one that whoever asks does not get. */
    sheet: Nullable(
      Type.Object({
        containerId: Id(),
        code: Type.String(),
        versionNumber: Type.Integer(),
        current: Type.Object({ versionId: Id(), number: Type.Integer() }),
      }),
    ),
    markup: Nullable(Type.Object({ id: Id(), number: Type.Integer(), text: Type.String() })),
    pictures: Type.Array(Type.Object({ position: Type.Integer(), caption: Type.String() })),
    relations: Type.Array(IssueRelation),
    elements: Type.Array(IssueElement),
    /** Things that it is about, of those that whoever asks may see. */
    things: Type.Array(Thing),
    answers: Type.Array(IssueAnswer),
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

const Changes = {
  title: Type.Optional(Line(200)),
  description: Type.Optional(Prose()),
  type: Type.Optional(IssueWord()),
  priority: Type.Optional(IssueWord()),
  responsible: Type.Optional(Nullable(ResponsibleRef)),
  verifierId: Type.Optional(Nullable(Id())),
  dueOn: Type.Optional(Nullable(Day())),
  labels: Type.Optional(Labels),
  action: Type.Optional(OneOf(ISSUE_ACTIONS)),
  reason: Type.Optional(Prose(1000)),
};
export const CHANGEABLE = [...ISSUE_FIELDS, 'action', 'reason'] as const;
export const changeIssue = operation('changeIssue', {
  method: 'patch',
  path: '/projects/:projectId/issues/:issueId',
  summary: 'Change fields of an issue, or its status by an action with a reason',
  access: { kind: 'issues', action: 'add' },
  body: Type.Object({ edition: Edition(), ...Changes }, { additionalProperties: false }),
  response: Issue,
});

const OneChange = Type.Object({ issueId: Id(), edition: Edition(), ...Changes }, { additionalProperties: false });
export const changeIssues = operation('changeIssues', {
  method: 'post',
  path: '/projects/:projectId/issues/change',
  summary: 'Change many issues, each for itself: one that is refused keeps no other back',
  access: { kind: 'issues', action: 'add' },
  largestBody: 1_000_000,
  body: Type.Object(
    { changes: Type.Array(OneChange, { minItems: 1, maxItems: 200 }) },
    { additionalProperties: false },
  ),
  response: Type.Array(
    Type.Object({
      issueId: Id(),
      /** As it is now; null where it was refused. */
      issue: Nullable(Issue),
      problem: Type.String(),
    }),
  ),
});

export const watchIssue = operation('watchIssue', {
  method: 'put',
  path: '/projects/:projectId/issues/:issueId/watchers',
  summary:
    'Who hears of what happens to an issue, beside those whom it concerns: yourself, or others if it is yours to change',
  access: { kind: 'issues', action: 'see' },
  body: Type.Object(
    {
      add: Type.Optional(Type.Array(Id(), { maxItems: 50 })),
      remove: Type.Optional(Type.Array(Id(), { maxItems: 50 })),
    },
    { additionalProperties: false },
  ),
  response: Type.Array(Person),
});
