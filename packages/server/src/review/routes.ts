import * as contract from '@kindred/contract/review/review';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import * as review from './service.ts';

export const reviewRoutes = (platform: Platform): Route[] => [
  route(contract.listReviewRoutes, ({ actor }) => review.listReviewRoutes(platform, actor.projectId)),
  route(contract.listReviews, ({ actor, query }) => review.listReviews(platform, actor, query)),
  route(contract.startReview, ({ actor, body }) => review.startReview(platform, actor, body)),
  route(contract.showReview, ({ actor, params }) => review.showReview(platform, actor, params.reviewId!)),
  route(contract.commentReview, ({ actor, params, body }) =>
    review.commentReview(platform, actor, params.reviewId!, body.versionId, body.text),
  ),
  route(contract.finishReview, ({ actor, params, body }) =>
    review.finishReview(platform, actor, params.reviewId!, body.code, body.remark),
  ),
];
