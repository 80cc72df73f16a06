/** What a return code demands of the person who finishes with it. */
export interface ReturnCodeRules {
  mustHaveComments?: boolean;
  noComments?: boolean;
  needsAnotherReview?: boolean;
  releases?: boolean;
}

/** The reason why a review may not be finished with these rules, or undefined when it may. */
export function finishingProblem(code: string, rules: ReturnCodeRules, comments: number): string | undefined {
  if (rules.mustHaveComments && comments === 0)
    return `Code ${code} must come with at least one comment: say what has to change, then finish.`;
  if (rules.noComments && comments > 0)
    return `Code ${code} may have no comments, and there ${comments === 1 ? 'is 1' : `are ${comments}`}: choose another code or withdraw the comments.`;
  return undefined;
}

export interface StepProgress {
  step: number;
  finished: boolean;
}

/** The step whose turn it is: the first with someone unfinished; undefined when all have finished. */
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
