import { Type, type Static } from '@sinclair/typebox';
import { Person } from '../identity/identity.ts';
import {
  Day,
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

export const REVIEW_STATUSES = ['under review', 'finished', 'withdrawn'] as const;

export const ReturnCode = Type.Object({
  id: Id(),
  code: Type.String(),
  meaning: Type.String(),
  rules: Type.Object({
    mustHaveComments: Type.Optional(Type.Boolean()),
    noComments: Type.Optional(Type.Boolean()),
    needsAnotherReview: Type.Optional(Type.Boolean()),
    releases: Type.Optional(Type.Boolean()),
  }),
});
export type ReturnCode = Static<typeof ReturnCode>;

const RouteStep = Type.Object({
  name: Type.String(),
  days: Type.Integer(),
  roleId: Nullable(Id()),
  roleName: Type.String(),
});
export const ReviewRoute = Type.Object({ id: Id(), name: Type.String(), steps: Type.Array(RouteStep) });
export type ReviewRoute = Static<typeof ReviewRoute>;

export const listReviewRoutes = operation('listReviewRoutes', {
  method: 'get',
  path: '/projects/:projectId/review-routes',
  summary: 'Review routes and return codes of a project',
  access: { kind: 'review', action: 'see' },
  response: Type.Object({ routes: Type.Array(ReviewRoute), codes: Type.Array(ReturnCode) }),
});

export const ReviewDocument = Type.Object({
  containerId: Id(),
  versionId: Id(),
  versionNumber: Type.Integer(),
  code: Type.String(),
  title: Type.String(),
  revision: Type.String(),
  kind: Type.String(),
});
export const Reviewer = Type.Object({
  id: Id(),
  step: Type.Integer(),
  stepName: Type.String(),
  person: Person,
  dueOn: Nullable(Day()),
  code: Nullable(Type.String()),
  finishedAt: Nullable(Moment()),
});
export type Reviewer = Static<typeof Reviewer>;
export const ReviewComment = Type.Object({
  id: Id(),
  author: Person,
  versionId: Id(),
  text: Type.String(),
  at: Moment(),
});
export type ReviewComment = Static<typeof ReviewComment>;

export const Review = Type.Object({
  id: Id(),
  number: Type.Integer(),
  title: Type.String(),
  status: OneOf(REVIEW_STATUSES),
  routeName: Type.String(),
  originator: Person,
  startedAt: Moment(),
  finishedAt: Nullable(Moment()),
  code: Nullable(Type.String()),
  codeMeaning: Nullable(Type.String()),
  currentStep: Nullable(Type.Integer()),
  dueOn: Nullable(Day()),
  documents: Type.Array(ReviewDocument),
  reviewers: Type.Array(Reviewer),
  comments: Type.Integer(),
});
export type Review = Static<typeof Review>;

export const listReviews = operation('listReviews', {
  method: 'get',
  path: '/projects/:projectId/reviews',
  summary: 'Reviews, newest first',
  access: { kind: 'review', action: 'see' },
  query: Type.Object({ ...PageQuery, status: Type.Optional(OneOf(REVIEW_STATUSES)) }, { additionalProperties: false }),
  response: Page(Review),
});
export const startReview = operation('startReview', {
  largestBody: 1_000_000,
  method: 'post',
  path: '/projects/:projectId/reviews',
  summary: 'Put documents into review on a route; the first step is told',
  access: { kind: 'review', action: 'add' },
  body: Type.Object(
    {
      title: Line(200),
      routeId: Id(),
      versionIds: Type.Array(Id(), { minItems: 1, maxItems: 1000 }),
      /** One list of people per step of the route. */
      reviewers: Type.Array(Type.Array(Id(), { minItems: 1, maxItems: 50 }), { minItems: 1, maxItems: 20 }),
    },
    { additionalProperties: false },
  ),
  response: Review,
});
export const showReview = operation('showReview', {
  method: 'get',
  path: '/projects/:projectId/reviews/:reviewId',
  summary: 'A review with its comments',
  access: { kind: 'review', action: 'see' },
  response: Type.Object({ review: Review, comments: Type.Array(ReviewComment) }),
});
export type ReviewView = Static<typeof showReview.response>;
export const commentReview = operation('commentReview', {
  method: 'post',
  path: '/projects/:projectId/reviews/:reviewId/comments',
  summary: 'Comment on a document under review; reviewers of the current step only',
  access: { kind: 'review', action: 'see' },
  body: Type.Object(
    { versionId: Id(), text: Type.String({ minLength: 1, maxLength: 10_000, pattern: '\\S' }) },
    { additionalProperties: false },
  ),
  response: ReviewComment,
});
export const finishReview = operation('finishReview', {
  method: 'post',
  path: '/projects/:projectId/reviews/:reviewId/finish',
  summary: 'Finish your part with a return code; the last one sends the answer to the originator',
  access: { kind: 'review', action: 'see' },
  body: Type.Object({ code: OptionalLine(20), remark: Type.Optional(Prose(2000)) }, { additionalProperties: false }),
  response: Review,
});
