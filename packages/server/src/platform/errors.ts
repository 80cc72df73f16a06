import type { Problem } from '@kindred/contract/platform/problem';

/** What a request is answered with when it cannot be done; `detail` says what happened, what is safe, what to do. */
export class ProblemError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    readonly title: string,
    readonly detail: string,
    readonly fields?: Problem['fields'],
    /** Seconds after which it may be tried again. */
    readonly retryAfter?: number,
  ) {
    super(`${title}: ${detail}`);
  }

  toProblem(): Problem {
    const { status, code, title, detail, fields } = this;
    return { type: `about:blank#${code}`, code, title, status, detail, ...(fields && { fields }) };
  }
}

export const notFound = (what: string): ProblemError =>
  new ProblemError(404, 'not-found', 'Not found', `There is no such ${what}, or you may not see it.`);
export const notAllowed = (detail: string): ProblemError => new ProblemError(403, 'not-allowed', 'Not allowed', detail);
export const conflict = (detail: string): ProblemError =>
  new ProblemError(409, 'conflict', 'Changed by someone else', detail);
export const refused = (code: string, detail: string, fields?: Problem['fields']): ProblemError =>
  new ProblemError(422, code, 'Not possible like this', detail, fields);

/** The first row, or 404. */
export function requireRow<T>(rows: readonly T[], what: string): T {
  if (rows[0] === undefined) throw notFound(what);
  return rows[0];
}

/** The answer, or `otherwise` where what was asked for is not there; every other error goes on. */
export async function unlessMissing<T, U>(answer: Promise<T>, otherwise: () => U): Promise<T | U> {
  try {
    return await answer;
  } catch (error) {
    if (error instanceof ProblemError && error.status === 404) return otherwise();
    throw error;
  }
}
