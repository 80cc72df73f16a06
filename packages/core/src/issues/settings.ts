/** What a project decides about its issues: types with their rules, priorities, labels. */
import { ISSUE_ACTIONS, type IssueAction } from './states.ts';

/** What somebody is to an issue. A changer has the right “change” for issues, whoever raised them. */
export const ISSUE_CONCERNS = ['raiser', 'responsible', 'verifier', 'changer'] as const;
export type IssueConcern = (typeof ISSUE_CONCERNS)[number];

/** Who may take a step, and what it takes. */
export interface StepRule {
  by: IssueConcern[];
  /** Not without a reason. */
  reason: boolean;
  /** Not without a newer version, a picture or a document that shows it. */
  proof: boolean;
}

/** Fields that a type may require when an issue is raised. */
export const REQUIRABLE_FIELDS = ['description', 'responsible', 'dueOn', 'place', 'labels'] as const;
export type RequirableField = (typeof REQUIRABLE_FIELDS)[number];

export interface IssueTypeRule {
  name: string;
  requires: RequirableField[];
  /** Working days that an answer has, where nobody says otherwise. */
  answerDays: number | null;
  steps: Record<IssueAction, StepRule>;
}

export interface IssuePriorityRule {
  name: string;
  /** While one of these is open on a version, a gate that asks for it keeps the version back. */
  blocks: boolean;
}

/** Types and priorities in the order in which they are offered; the priority that matters least comes first. */
export interface IssueSettings {
  types: IssueTypeRule[];
  priorities: IssuePriorityRule[];
  labels: string[];
}

const STARTER_STEPS: Record<IssueAction, IssueConcern[]> = {
  'take in hand': ['raiser', 'responsible', 'changer'],
  answer: ['raiser', 'responsible', 'changer'],
  close: ['raiser', 'verifier', 'changer'],
  reopen: ['raiser', 'responsible', 'verifier', 'changer'],
  void: ['raiser', 'changer'],
};

export const starterType = (name: string, requires: RequirableField[] = []): IssueTypeRule => ({
  name,
  requires,
  answerDays: null,
  steps: Object.fromEntries(
    ISSUE_ACTIONS.map((action) => [action, { by: [...STARTER_STEPS[action]], reason: false, proof: false }]),
  ) as IssueTypeRule['steps'],
});

/** What a project has until it decides otherwise. */
export const STARTER_ISSUE_SETTINGS: IssueSettings = {
  types: ['question', 'request', 'clash', 'defect'].map((name) => starterType(name)),
  priorities: [
    { name: 'low', blocks: false },
    { name: 'normal', blocks: false },
    { name: 'high', blocks: false },
    { name: 'blocking', blocks: true },
  ],
  labels: [],
};

/** Issues keep the type that they have, also one that the project has no more: then the first type's rules hold. */
export const ruleOf = ({ types }: IssueSettings, type: string): IssueTypeRule =>
  types.find(({ name }) => name === type) ?? types[0]!;

/** In the middle of the scale. */
export const usualPriority = ({ priorities }: IssueSettings): string =>
  priorities[Math.floor((priorities.length - 1) / 2)]!.name;

/** From 1 for the least to the number of priorities; 0 for one that the project does not have. */
export const rankOf = ({ priorities }: Pick<IssueSettings, 'priorities'>, priority: string): number =>
  priorities.findIndex(({ name }) => name === priority) + 1;

export type Filled = Record<RequirableField, boolean>;
export const missingFields = ({ requires }: IssueTypeRule, filled: Filled): RequirableField[] =>
  requires.filter((field) => !filled[field]);

export type SettingsProblem =
  | { code: 'no-types' | 'no-priorities' }
  | { code: 'same-name'; name: string }
  | { code: 'nobody-may'; type: string; action: IssueAction };

const twice = (names: readonly string[]): string | undefined => {
  const seen = new Set<string>();
  return names.find((name) => seen.size === seen.add(name.trim().toLowerCase()).size);
};

/** What keeps settings from being kept: an issue could be stuck for ever, or a name would mean two things. */
export function settingsProblem({ types, priorities, labels }: IssueSettings): SettingsProblem | undefined {
  if (!types.length) return { code: 'no-types' };
  if (!priorities.length) return { code: 'no-priorities' };
  for (const names of [types.map(({ name }) => name), priorities.map(({ name }) => name), labels]) {
    const name = twice(names);
    if (name !== undefined) return { code: 'same-name', name };
  }
  for (const { name, steps } of types)
    for (const action of ['answer', 'close', 'reopen'] as const)
      if (!steps[action].by.length) return { code: 'nobody-may', type: name, action };
  return undefined;
}
