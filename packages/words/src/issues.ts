/** Sentences about issues: fields, steps, who may take them. */
import type { IssueConcern, RequirableField, SettingsProblem } from '@kindred/core/issues/settings';
import type { IssueAction } from '@kindred/core/issues/states';

export const ISSUE_FIELD_WORDS: Record<RequirableField, string> = {
  description: 'what is asked, or wrong',
  responsible: 'who answers',
  dueOn: 'a due day',
  place: 'a place on a sheet or in a model',
  labels: 'a label',
};

export const ISSUE_CONCERN_WORDS: Record<IssueConcern, string> = {
  raiser: 'whoever raised it',
  responsible: 'whoever answers it',
  verifier: 'whoever verifies it',
  changer: 'whoever may change all issues',
};

const listed = (words: readonly string[], last: string): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} ${last} ${words.at(-1)!}`;

/** Which fields an issue of a type lacks. */
export const missingIssueFields = (type: string, fields: readonly RequirableField[]): string =>
  `An issue of the type “${type}” needs ${listed(
    fields.map((field) => ISSUE_FIELD_WORDS[field]),
    'and',
  )}.`;

export const whoMayStep = (type: string, action: IssueAction, by: readonly IssueConcern[]): string =>
  by.length
    ? `“${action}” is for ${listed(
        by.map((concern) => ISSUE_CONCERN_WORDS[concern]),
        'or',
      )}, as this project has it for the type “${type}”.`
    : `Nobody may “${action}” an issue of the type “${type}” in this project.`;

export function issueSettingsProblem(problem: SettingsProblem): string {
  switch (problem.code) {
    case 'no-types':
      return 'A project has at least one type of issue.';
    case 'no-priorities':
      return 'A project has at least one priority.';
    case 'same-name':
      return `Two of them would be called “${problem.name}”.`;
    case 'nobody-may':
      return `Nobody could “${problem.action}” an issue of the type “${problem.type}”: it would be stuck.`;
  }
}

/** How another issue is related, as it is said of this one. */
export const relationWords = (kind: 'duplicate of' | 'follows from' | 'blocks', back: boolean): string =>
  ({
    'duplicate of': ['is a duplicate of', 'has the duplicate'],
    'follows from': ['follows from', 'led to'],
    blocks: ['blocks', 'is blocked by'],
  })[kind][back ? 1 : 0]!;
