import { addressOf, ApiProblem, createClient, Unreachable, type Arguments } from '@kindred/client/client';
import type { AnyOperation, Response as Answer } from '@kindred/contract/platform/operation';

export { addressOf, ApiProblem };

let csrfToken = '';
export const setCsrfToken = (token: string): void => void (csrfToken = token);
export const getCsrfToken = (): string => csrfToken;

let onSignedOut: () => void = () => undefined;
export const whenSignedOut = (run: () => void): void => void (onSignedOut = run);

const ask = createClient({ server: '', headers: () => ({ 'x-csrf-token': csrfToken }) });

/** What the server refuses is undefined; any other error passes. For what can be missing without harm. */
export async function unlessRefused<T>(asked: Promise<T>): Promise<T | undefined> {
  try {
    return await asked;
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
  }
}

/** Calls the server as whoever has signed in here; no connection is told like everything that the server refuses. */
export async function call<O extends AnyOperation>(operation: O, args: Arguments<O> = {}): Promise<Answer<O>> {
  try {
    return await ask(operation, args);
  } catch (error) {
    if (error instanceof Unreachable)
      throw new ApiProblem({
        type: '',
        code: 'offline',
        status: 0,
        title: 'No connection',
        detail: 'The server cannot be reached. Nothing was changed; try again when you are back online.',
      });
    if (error instanceof ApiProblem && error.problem.code === 'sign-in-first') onSignedOut();
    throw error;
  }
}
