import { UploadId } from '../register/uploads.ts';
import { FATES } from '@kindred/core/markup/fate';
import { Type, type Static, type TSchema } from '@sinclair/typebox';
import { MARKUP_STATUSES, type MarkupKind, type MarkupShape, type MarkupStyle } from '@kindred/core/markup/shapes';
import { Person } from '../identity/identity.ts';
import { LongJob } from '../platform/jobs.ts';
import { Day, Edition, Id, Moment, Nullable, OneOf, operation, Prose } from '../platform/operation.ts';

const Coordinate = Type.Number({ minimum: -1_000_000, maximum: 1_000_000 });
const Point = Type.Tuple([Coordinate, Coordinate]);
const Box = Type.Tuple([Coordinate, Coordinate, Coordinate, Coordinate]);
const Points = (minItems: number, maxItems = minItems) => Type.Array(Point, { minItems, maxItems });
const MOST_POINTS = 5000;
/** How each kind is placed; those of one list alike. */
const PLACED: [readonly MarkupKind[], Record<string, TSchema>][] = [
  [['line', 'arrow', 'dimension', 'rectangle', 'ellipse'], { points: Points(2) }],
  [['cloud', 'polygon', 'polyline'], { points: Points(2, MOST_POINTS) }],
  [
    ['freehand', 'highlighter'],
    { points: Points(1, MOST_POINTS), strokes: Type.Optional(Type.Array(Points(1, MOST_POINTS), { maxItems: 500 })) },
  ],
  [
    ['area'],
    { points: Points(3, MOST_POINTS), holes: Type.Optional(Type.Array(Points(3, MOST_POINTS), { maxItems: 100 })) },
  ],
  [['angle'], { points: Points(3) }],
  [['count'], { points: Points(1, MOST_POINTS) }],
  [['note'], { points: Points(1) }],
  [['callout'], { target: Point, box: Box }],
  [['text', 'stamp', 'photo'], { box: Box }],
];
export const Shape = Type.Unsafe<MarkupShape>(
  Type.Union(
    PLACED.flatMap(([kinds, place]) =>
      kinds.map((kind) => Type.Object({ kind: Type.Literal(kind), ...place }, { additionalProperties: false })),
    ),
  ),
);
export const Style = Type.Unsafe<MarkupStyle>(
  Type.Object(
    {
      colour: Type.Optional(Type.String({ pattern: '^#[0-9a-fA-F]{6}$' })),
      width: Type.Optional(Type.Number({ minimum: 0.1, maximum: 50 })),
      filled: Type.Optional(Type.Boolean()),
      opacity: Type.Optional(Type.Number({ minimum: 0, maximum: 1 })),
      order: Type.Optional(Type.Integer({ minimum: -10_000, maximum: 10_000 })),
      group: Type.Optional(Id()),
      locked: Type.Optional(Type.Boolean()),
    },
    { additionalProperties: false },
  ),
);

export const Markup = Type.Object({
  id: Id(),
  containerId: Id(),
  versionId: Id(),
  versionNumber: Type.Integer(),
  /** The same through all versions that it is carried to. */
  threadId: Id(),
  page: Type.Integer(),
  number: Type.Integer(),
  /** Of a callout, within its sheet or set. */
  tag: Nullable(Type.Integer()),
  shape: Shape,
  style: Style,
  /** Metres of the thing for a point of the paper, as it was measured with; null for what measures nothing. */
  metresPerPoint: Nullable(Type.Number()),
  text: Type.String(),
  status: OneOf(MARKUP_STATUSES),
  draft: Type.Boolean(),
  author: Person,
  /** Who wrote it in another program; the author brought it in. */
  writtenBy: Nullable(Type.String()),
  assignee: Nullable(Person),
  dueOn: Nullable(Day()),
  /** Number of the version that it was carried from, and of the one that it was carried to. */
  carriedFrom: Nullable(Type.Integer()),
  carriedTo: Nullable(Type.Integer()),
  /** Of what it points at since the version that it came from; null where that is not known. */
  fate: Nullable(OneOf(FATES)),
  comments: Type.Integer(),
  /** A photo or the picture of a stamp belongs to it. */
  picture: Type.Boolean(),
  edition: Edition(),
  createdAt: Moment(),
  updatedAt: Moment(),
});
export type Markup = Static<typeof Markup>;

export const MarkupComment = Type.Object({
  id: Id(),
  text: Type.String(),
  author: Person,
  writtenBy: Nullable(Type.String()),
  /** Of the version on which it was said. */
  versionNumber: Type.Integer(),
  at: Moment(),
});
export type MarkupComment = Static<typeof MarkupComment>;
/** A markup as it was made or changed. */
export const MarkupEdition = Type.Object({
  edition: Edition(),
  versionNumber: Type.Integer(),
  text: Type.String(),
  status: OneOf(MARKUP_STATUSES),
  assignee: Nullable(Person),
  dueOn: Nullable(Day()),
  /** Moved, reshaped or drawn in another style than in the edition before. */
  redrawn: Type.Boolean(),
  by: Person,
  writtenBy: Nullable(Type.String()),
  at: Moment(),
});
export type MarkupEdition = Static<typeof MarkupEdition>;

export const listMarkups = operation('listMarkups', {
  method: 'get',
  path: '/projects/:projectId/versions/:versionId/markups',
  summary: 'Published markups on a version, and your own drafts',
  access: { kind: 'markup', action: 'see' },
  response: Type.Array(Markup),
});
export const addMarkup = operation('addMarkup', {
  method: 'post',
  path: '/projects/:projectId/versions/:versionId/markups',
  summary: 'Draw a markup; it is your private draft until you publish it',
  access: { kind: 'markup', action: 'add' },
  body: Type.Object(
    {
      /** Its maker may choose the id: what was taken back comes again as what it was. */
      id: Type.Optional(Id()),
      page: Type.Integer({ minimum: 1 }),
      shape: Shape,
      style: Type.Optional(Style),
      metresPerPoint: Type.Optional(Nullable(Type.Number({ exclusiveMinimum: 0, maximum: 1000 }))),
      text: Prose(2000),
      status: OneOf(MARKUP_STATUSES),
      /** The photo of it, sent before with the purpose “markup”. */
      uploadId: Type.Optional(UploadId),
      /** The stamp of the catalogue that it is placed from; its picture comes along. */
      stampId: Type.Optional(Id()),
    },
    { additionalProperties: false },
  ),
  response: Markup,
});
export const showMarkup = operation('showMarkup', {
  method: 'get',
  path: '/projects/:projectId/markups/:markupId',
  summary: 'A markup with what was said about it and what was done to it, on this version and those before',
  access: { kind: 'markup', action: 'see' },
  response: Type.Object({ markup: Markup, comments: Type.Array(MarkupComment), editions: Type.Array(MarkupEdition) }),
});
export const showMarkupPicture = operation('showMarkupPicture', {
  method: 'get',
  path: '/projects/:projectId/markups/:markupId/picture',
  summary: 'The photo of a markup, or the picture of a stamp',
  access: { kind: 'markup', action: 'see' },
  binary: true,
});
export const commentMarkup = operation('commentMarkup', {
  method: 'post',
  path: '/projects/:projectId/markups/:markupId/comments',
  summary: 'Say something about a published markup; its author, whoever is responsible and those named are told',
  access: { kind: 'markup', action: 'add' },
  body: Type.Object(
    { text: Prose(2000), mentions: Type.Optional(Type.Array(Id(), { maxItems: 50 })) },
    { additionalProperties: false },
  ),
  response: MarkupComment,
});
export const changeMarkup = operation('changeMarkup', {
  method: 'patch',
  path: '/projects/:projectId/markups/:markupId',
  summary: 'Change text, status, shape, responsible person or due date of a markup',
  access: { kind: 'markup', action: 'add' },
  body: Type.Object(
    {
      edition: Edition(),
      text: Type.Optional(Prose(2000)),
      status: Type.Optional(OneOf(MARKUP_STATUSES)),
      shape: Type.Optional(Shape),
      style: Type.Optional(Style),
      metresPerPoint: Type.Optional(Nullable(Type.Number({ exclusiveMinimum: 0, maximum: 1000 }))),
      assigneeId: Type.Optional(Nullable(Id())),
      dueOn: Type.Optional(Nullable(Day())),
    },
    { additionalProperties: false },
  ),
  response: Markup,
});
export const deleteMarkup = operation('deleteMarkup', {
  method: 'delete',
  path: '/projects/:projectId/markups/:markupId',
  summary: 'Delete a draft of your own',
  access: { kind: 'markup', action: 'add' },
});
export const MARKED_COPIES = ['pdf', 'flattened pdf', 'xfdf', 'xlsx'] as const;
const Leaving = {
  as: OneOf(MARKED_COPIES),
  status: Type.Optional(OneOf(MARKUP_STATUSES)),
  /** Id of whoever wrote them. */
  author: Type.Optional(Id()),
};
export const startMarkupExport = operation('startMarkupExport', {
  costly: true,
  method: 'post',
  path: '/projects/:projectId/versions/:versionId/markup-export',
  summary:
    'Make a copy of a drawing with its published markups: as annotations, drawn into it, or alone as XFDF or a list',
  access: { kind: 'markup', action: 'see' },
  body: Type.Object({ ...Leaving, page: Type.Optional(Type.Integer({ minimum: 1 })) }, { additionalProperties: false }),
  response: LongJob,
});
export const startMarkupSetExport = operation('startMarkupSetExport', {
  costly: true,
  largestBody: 1_000_000,
  method: 'post',
  path: '/projects/:projectId/markup-export',
  summary: 'Make such copies of several drawings, or of all that have published markups, in one ZIP with a list of all',
  access: { kind: 'markup', action: 'see' },
  body: Type.Object(
    { ...Leaving, containerIds: Type.Optional(Type.Array(Id(), { minItems: 1, maxItems: 5000 })) },
    { additionalProperties: false },
  ),
  response: LongJob,
});

export const publishMarkups = operation('publishMarkups', {
  largestBody: 1_000_000,
  method: 'post',
  path: '/projects/:projectId/versions/:versionId/markups/publish',
  summary: 'Publish your drafts on a version, one or all',
  access: { kind: 'markup', action: 'add' },
  body: Type.Object({ markupIds: Type.Array(Id(), { minItems: 1, maxItems: 500 }) }, { additionalProperties: false }),
  response: Type.Array(Markup),
});
