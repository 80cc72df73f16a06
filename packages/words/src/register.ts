/** Why versions may not pass a gate, and reviews may not be finished. */
import type { GateProblem } from '@kindred/core/register/gates';
import type { FinishingProblem } from '@kindred/core/review/rules';

export function gateProblem(problem: GateProblem): string {
  switch (problem.code) {
    case 'name':
      return 'its name does not conform';
    case 'preparation':
      return 'its preparation has not ended well';
    case 'blocking-issues':
      return `blocking issue ${problem.numbers.join(', ')} is open on it`;
    case 'status': {
      const status = problem.status ? `“${problem.status}”` : '(none)';
      return `its status ${status} does not fit; what fits: ${problem.fitting.join(', ')}`;
    }
  }
}

export const finishingProblem = ({ code, returnCode, comments }: FinishingProblem): string =>
  code === 'comments-missing'
    ? `Code ${returnCode} must come with at least one comment: say what has to change, then finish.`
    : `Code ${returnCode} may have no comments, and there ${comments === 1 ? 'is 1' : `are ${comments}`}: choose another code or withdraw the comments.`;
