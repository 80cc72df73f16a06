/** What a return code demands of the person who finishes with it. */
export interface ReturnCodeRules {
  mustHaveComments?: boolean;
  noComments?: boolean;
  needsAnotherReview?: boolean;
  releases?: boolean;
}

export interface FinishingProblem {
  code: 'comments-missing' | 'comments-given';
  returnCode: string;
  comments: number;
}

/** Why a review may not be finished with a return code of these rules, or undefined when it may. */
export function finishingProblem(
  returnCode: string,
  rules: ReturnCodeRules,
  comments: number,
): FinishingProblem | undefined {
  if (rules.mustHaveComments && comments === 0) return { code: 'comments-missing', returnCode, comments };
  if (rules.noComments && comments > 0) return { code: 'comments-given', returnCode, comments };
  return undefined;
}

export interface StepProgress {
  step: number;
  finished: boolean;
}

/** The step that is open: the first with someone unfinished; undefined when all have finished. */
export function currentStep(participants: readonly StepProgress[]): number | undefined {
  let current: number | undefined;
  for (const { step, finished } of participants)
    if (!finished && (current === undefined || step < current)) current = step;
  return current;
}

/** `date` plus `days` working days (Monday to Friday), as YYYY-MM-DD in UTC. */
export function addWorkingDays(date: Date, days: number): string {
  const day = new Date(Date.UTC(date.getUTCFullYear(), date.getUTCMonth(), date.getUTCDate()));
  for (let left = days; left > 0;) {
    day.setUTCDate(day.getUTCDate() + 1);
    if (day.getUTCDay() !== 0 && day.getUTCDay() !== 6) left--;
  }
  return day.toISOString().slice(0, 10);
}
