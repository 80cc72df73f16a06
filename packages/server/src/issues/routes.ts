import * as comments from '@kindred/contract/issues/comments';
import { showIssueFigures } from '@kindred/contract/issues/figures';
import * as contract from '@kindred/contract/issues/issues';
import * as report from '@kindred/contract/issues/report';
import * as settings from '@kindred/contract/issues/settings';
import * as ties from '@kindred/contract/issues/ties';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import * as changing from './changing.ts';
import * as commenting from './comments.ts';
import * as figures from './figures.ts';
import { groupIssues, listIssues } from './list.ts';
import { raiseIssue } from './raising.ts';
import * as kept from './settings.ts';
import { startIssueReport } from './report.ts';
import { sendIssuePicture, showIssue } from './showing.ts';
import * as tied from './ties.ts';
import { watchIssue } from './watching.ts';

export const issueRoutes = (platform: Platform): Route[] => [
  route(settings.showIssueSettings, ({ actor }) => kept.showIssueSettings(platform, actor)),
  route(settings.changeIssueSettings, ({ actor, body }) => kept.changeIssueSettings(platform, actor, body)),
  route(contract.listIssues, ({ actor, query }) => listIssues(platform, actor, query)),
  route(contract.groupIssues, ({ actor, query }) => groupIssues(platform, actor, query)),
  route(showIssueFigures, ({ actor, query }) => figures.showIssueFigures(platform, actor, query)),
  route(report.startIssueReport, ({ actor, body }) => startIssueReport(platform, actor, body)),
  route(contract.raiseIssue, ({ actor, body }) => raiseIssue(platform, actor, body)),
  route(contract.changeIssues, ({ actor, body }) => changing.changeIssues(platform, actor, body)),
  route(contract.showIssue, ({ actor, params }) => showIssue(platform, actor, params.issueId!)),
  route(contract.showIssuePicture, ({ actor, params, response }) =>
    sendIssuePicture(platform, actor, params.issueId!, Number(params.position), response),
  ),
  route(contract.changeIssue, ({ actor, params, body }) =>
    changing.changeIssue(platform, actor, params.issueId!, body),
  ),
  route(contract.watchIssue, ({ actor, params, body }) => watchIssue(platform, actor, params.issueId!, body)),
  route(comments.listIssueComments, ({ actor, params, query }) =>
    commenting.listIssueComments(platform, actor, params.issueId!, query),
  ),
  route(comments.commentIssue, ({ actor, params, body }) =>
    commenting.commentIssue(platform, actor, params.issueId!, body),
  ),
  route(comments.changeIssueComment, ({ actor, params, body }) =>
    commenting.changeIssueComment(platform, actor, params.issueId!, params.commentId!, body.text),
  ),
  route(comments.withdrawIssueComment, ({ actor, params }) =>
    commenting.withdrawIssueComment(platform, actor, params.issueId!, params.commentId!),
  ),
  route(comments.listCommentEditions, ({ actor, params }) =>
    commenting.listCommentEditions(platform, actor, params.issueId!, params.commentId!),
  ),
  route(comments.showCommentPicture, ({ actor, params, response }) =>
    commenting.sendCommentPicture(
      platform,
      actor,
      { issueId: params.issueId!, commentId: params.commentId!, position: Number(params.position) },
      response,
    ),
  ),
  route(ties.relateIssue, ({ actor, params, body }) => tied.relateIssue(platform, actor, params.issueId!, body)),
  route(ties.unrelateIssue, ({ actor, params }) =>
    tied.unrelateIssue(platform, actor, params.issueId!, params.relationId!),
  ),
  route(ties.tieIssue, ({ actor, params, body }) => tied.tieIssue(platform, actor, params.issueId!, body)),
  route(ties.untieIssue, ({ actor, params, body }) => tied.untieIssue(platform, actor, params.issueId!, body)),
  route(ties.answerIssue, ({ actor, params, body }) => tied.answerIssue(platform, actor, params.issueId!, body)),
];
