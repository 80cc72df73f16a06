import * as contract from '@kindred/contract/issues/issues';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import * as issues from './service.ts';

export const issueRoutes = (platform: Platform): Route[] => [
  route(contract.listIssues, ({ actor, query }) => issues.listIssues(platform, actor, query)),
  route(contract.raiseIssue, ({ actor, body }) => issues.raiseIssue(platform, actor, body)),
  route(contract.showIssue, ({ actor, params }) => issues.showIssue(platform, actor, params.issueId!)),
  route(contract.showIssuePicture, ({ actor, params, response }) =>
    issues.sendIssuePicture(platform, actor, params.issueId!, Number(params.position), response),
  ),
  route(contract.changeIssue, ({ actor, params, body }) => issues.changeIssue(platform, actor, params.issueId!, body)),
  route(contract.commentIssue, ({ actor, params, body }) =>
    issues.commentIssue(platform, actor, params.issueId!, body.text),
  ),
];
