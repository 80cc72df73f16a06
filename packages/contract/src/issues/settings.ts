/** What a project decides about its issues. */
import { REQUIRABLE_FIELDS, ISSUE_CONCERNS, type IssueSettings as CoreSettings } from '@kindred/core/issues/settings';
import { ISSUE_ACTIONS } from '@kindred/core/issues/states';
import { Type, type Static } from '@sinclair/typebox';
import { Edition, Nullable, OneOf, operation } from '../platform/operation.ts';

/** Lists of these are written with commas. */
export const IssueWord = () =>
  Type.String({
    minLength: 1,
    maxLength: 60,
    pattern: '^(?! |-$)[^,\\u0000-\\u001f\\u007f]*[^, \\u0000-\\u001f\\u007f]$',
  });

const StepRule = Type.Object(
  {
    by: Type.Array(OneOf(ISSUE_CONCERNS), { maxItems: 4, uniqueItems: true }),
    reason: Type.Boolean(),
    proof: Type.Boolean(),
  },
  { additionalProperties: false },
);
const TypeRule = Type.Object(
  {
    name: IssueWord(),
    requires: Type.Array(OneOf(REQUIRABLE_FIELDS), { uniqueItems: true }),
    answerDays: Nullable(Type.Integer({ minimum: 0, maximum: 250 })),
    steps: Type.Object(
      Object.fromEntries(ISSUE_ACTIONS.map((action) => [action, StepRule])) as Record<
        (typeof ISSUE_ACTIONS)[number],
        typeof StepRule
      >,
      { additionalProperties: false },
    ),
  },
  { additionalProperties: false },
);
export const IssueSettings = Type.Object(
  {
    types: Type.Array(TypeRule, { minItems: 1, maxItems: 40 }),
    priorities: Type.Array(
      Type.Object({ name: IssueWord(), blocks: Type.Boolean() }, { additionalProperties: false }),
      { minItems: 1, maxItems: 12 },
    ),
    labels: Type.Array(IssueWord(), { maxItems: 200 }),
  },
  { additionalProperties: false },
);
export type IssueSettings = Static<typeof IssueSettings> & CoreSettings;

const Kept = Type.Object({
  settings: IssueSettings,
  edition: Edition(),
  /** How many issues have each of these words. */
  used: Type.Object({
    types: Type.Record(Type.String(), Type.Integer()),
    priorities: Type.Record(Type.String(), Type.Integer()),
    labels: Type.Record(Type.String(), Type.Integer()),
  }),
});
export type KeptIssueSettings = Static<typeof Kept>;

export const showIssueSettings = operation('showIssueSettings', {
  method: 'get',
  path: '/projects/:projectId/issue-settings',
  summary: 'Types, priorities and labels of issues, and the rules of each type',
  access: { kind: 'issues', action: 'see' },
  response: Kept,
});

const Renamed = Type.Record(IssueWord(), IssueWord());
export const changeIssueSettings = operation('changeIssueSettings', {
  method: 'put',
  path: '/projects/:projectId/issue-settings',
  summary: 'Change types, priorities and labels; issues follow what was renamed, and keep what is no more offered',
  access: 'administrator',
  body: Type.Object(
    {
      edition: Edition(),
      settings: IssueSettings,
      /** Old name → new name. */
      renamed: Type.Optional(
        Type.Object(
          { types: Type.Optional(Renamed), priorities: Type.Optional(Renamed), labels: Type.Optional(Renamed) },
          { additionalProperties: false },
        ),
      ),
    },
    { additionalProperties: false },
  ),
  response: Kept,
});
