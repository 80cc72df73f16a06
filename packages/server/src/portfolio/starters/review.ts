import type { ReturnCodeRules } from '@kindred/core/review/rules';

/** Return codes of our own that a new project starts with: data, which a project may change. */
export const STARTER_CODES: { code: string; meaning: string; rules: ReturnCodeRules }[] = [
  { code: 'GO', meaning: 'Accepted', rules: { noComments: true, releases: true } },
  { code: 'GO-N', meaning: 'Accepted with notes', rules: { mustHaveComments: true, releases: true } },
  { code: 'AGAIN', meaning: 'Change and deliver again', rules: { mustHaveComments: true, needsAnotherReview: true } },
  { code: 'SEEN', meaning: 'Seen, no decision', rules: {} },
];
