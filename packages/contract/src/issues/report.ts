/** Issues as a report that people keep. */
import { Type } from '@sinclair/typebox';
import { LongJob } from '../platform/jobs.ts';
import { OneOf, operation } from '../platform/operation.ts';
import { ISSUE_SORTS, IssueFilters } from './issues.ts';

export const ISSUE_REPORTS = ['pdf', 'xlsx'] as const;
export type IssueReportKind = (typeof ISSUE_REPORTS)[number];
/** Issues that one PDF has at most, each on a page of its own. */
export const MOST_REPORTED = 1000;

export const startIssueReport = operation('startIssueReport', {
  costly: true,
  method: 'post',
  path: '/projects/:projectId/issue-reports',
  summary:
    'A report of the issues that fit: PDF with cover, table and a page for each with picture and history, or XLSX',
  access: { kind: 'issues', action: 'see' },
  body: Type.Object(
    {
      as: OneOf(ISSUE_REPORTS),
      ...IssueFilters,
      sort: Type.Optional(OneOf(ISSUE_SORTS)),
      descending: Type.Optional(Type.Boolean()),
    },
    { additionalProperties: false },
  ),
  response: LongJob,
});
