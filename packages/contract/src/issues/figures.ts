/** What charts of issues are drawn from. */
import { Type, type Static } from '@sinclair/typebox';
import { Day, Nullable, Id, operation } from '../platform/operation.ts';
import { IssueFilters } from './issues.ts';

/** Days since an issue that is still open was raised: up to so many, null for more than the last. */
export const ISSUE_AGES = [2, 7, 14, 30, null] as const;

export const showIssueFigures = operation('showIssueFigures', {
  method: 'get',
  path: '/projects/:projectId/issue-figures',
  summary:
    'Issues in figures, under the filters of the list: by team, by age, week by week, and how long companies take to answer',
  access: { kind: 'issues', action: 'see' },
  query: Type.Object(IssueFilters, { additionalProperties: false }),
  response: Type.Object({
    /** Issues that are not closed or void, by the team that has to answer; null for nobody's. */
    teams: Type.Array(
      Type.Object({
        teamId: Nullable(Id()),
        name: Type.String(),
        open: Type.Integer(),
        inHand: Type.Integer(),
        answered: Type.Integer(),
        overdue: Type.Integer(),
      }),
    ),
    ages: Type.Array(
      Type.Object({
        days: Nullable(Type.Integer()),
        raisedFrom: Nullable(Day()),
        raisedTo: Day(),
        count: Type.Integer(),
      }),
    ),
    /** The last weeks, each from its Monday: what was raised and closed in it, and what was open at its end. */
    weeks: Type.Array(
      Type.Object({ from: Day(), to: Day(), raised: Type.Integer(), closed: Type.Integer(), open: Type.Integer() }),
    ),
    /** Days from raising to the first answer, by the company of whoever answered. */
    answers: Type.Array(Type.Object({ company: Type.String(), issues: Type.Integer(), medianDays: Type.Number() })),
  }),
});
export type IssueFigures = Static<typeof showIssueFigures.response>;
