import { Type, type Static } from '@sinclair/typebox';
import { MARKUP_STATUSES, type MarkupShape } from '@kindred/core/markup/shapes';
import { Person } from '../identity/identity.ts';
import { Edition, Id, Moment, OneOf, operation, Prose } from '../platform/operation.ts';

const Coordinate = Type.Number({ minimum: -100_000, maximum: 100_000 });
const Point = Type.Tuple([Coordinate, Coordinate]);
const Shape = Type.Unsafe<MarkupShape>(
  Type.Union([
    Type.Object(
      { kind: Type.Literal('cloud'), points: Type.Array(Point, { minItems: 2, maxItems: 500 }) },
      { additionalProperties: false },
    ),
    Type.Object(
      {
        kind: Type.Literal('callout'),
        target: Point,
        box: Type.Tuple([Coordinate, Coordinate, Coordinate, Coordinate]),
      },
      { additionalProperties: false },
    ),
    Type.Object(
      { kind: Type.Literal('rectangle'), points: Type.Array(Point, { minItems: 2, maxItems: 2 }) },
      { additionalProperties: false },
    ),
    Type.Object(
      { kind: Type.Literal('arrow'), points: Type.Array(Point, { minItems: 2, maxItems: 2 }) },
      { additionalProperties: false },
    ),
  ]),
);

export const Markup = Type.Object({
  id: Id(),
  containerId: Id(),
  versionId: Id(),
  versionNumber: Type.Integer(),
  page: Type.Integer(),
  number: Type.Integer(),
  shape: Shape,
  text: Type.String(),
  status: OneOf(MARKUP_STATUSES),
  draft: Type.Boolean(),
  author: Person,
  edition: Edition(),
  createdAt: Moment(),
});
export type Markup = Static<typeof Markup>;

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
    { page: Type.Integer({ minimum: 1 }), shape: Shape, text: Prose(2000), status: OneOf(MARKUP_STATUSES) },
    { additionalProperties: false },
  ),
  response: Markup,
});
export const changeMarkup = operation('changeMarkup', {
  method: 'patch',
  path: '/projects/:projectId/markups/:markupId',
  summary: 'Change text, status or shape of a markup',
  access: { kind: 'markup', action: 'add' },
  body: Type.Object(
    {
      edition: Edition(),
      text: Type.Optional(Prose(2000)),
      status: Type.Optional(OneOf(MARKUP_STATUSES)),
      shape: Type.Optional(Shape),
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
export const publishMarkups = operation('publishMarkups', {
  largestBody: 1_000_000,
  method: 'post',
  path: '/projects/:projectId/versions/:versionId/markups/publish',
  summary: 'Publish your drafts on a version, one or all',
  access: { kind: 'markup', action: 'add' },
  body: Type.Object({ markupIds: Type.Array(Id(), { minItems: 1, maxItems: 500 }) }, { additionalProperties: false }),
  response: Type.Array(Markup),
});
