import type { AnyOperation, Body, Params, Query, Response as Answer } from '@kindred/contract/platform/operation';
import type { Problem } from '@kindred/contract/platform/problem';

type Values = Record<string, string | number | boolean | null | undefined>;
export interface Arguments<O extends AnyOperation> {
  params?: Partial<Params<O>> & Record<string, string | number>;
  query?: Query<O>;
  body?: Body<O>;
}

/** What the server refused, in its own words. */
export class ApiProblem extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

let csrfToken = '';
export const setCsrfToken = (token: string): void => void (csrfToken = token);
export const getCsrfToken = (): string => csrfToken;

let onSignedOut: () => void = () => undefined;
export const whenSignedOut = (run: () => void): void => void (onSignedOut = run);

/** The address of an operation, for links, pictures and downloads. */
export function addressOf(operation: AnyOperation, params: Values = {}, query: Values = {}): string {
  const path = operation.path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(params[name])));
  const given = Object.entries(query).filter(([, value]) => value !== undefined && value !== null && value !== '');
  const search = new URLSearchParams(given.map(([key, value]) => [key, String(value)])).toString();
  return `/api${path}${search ? `?${search}` : ''}`;
}

export async function call<O extends AnyOperation>(
  operation: O,
  { params, query, body }: Arguments<O> = {},
): Promise<Answer<O>> {
  const response = await fetch(addressOf(operation, params as Values, query as Values), {
    method: operation.method.toUpperCase(),
    headers: { 'x-csrf-token': csrfToken, ...(body !== undefined && { 'content-type': 'application/json' }) },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  }).catch(() => {
    throw new ApiProblem({
      type: '',
      code: 'offline',
      status: 0,
      title: 'No connection',
      detail: 'The server cannot be reached. Nothing was changed; try again when you are back online.',
    });
  });
  const text = await response.text();
  if (response.ok) return (text ? JSON.parse(text) : null) as Answer<O>;
  const problem = problemFrom(text, response.status);
  if (problem.code === 'sign-in-first') onSignedOut();
  throw new ApiProblem(problem);
}

function problemFrom(text: string, status: number): Problem {
  try {
    return JSON.parse(text) as Problem;
  } catch {
    return {
      type: '',
      code: 'unreadable',
      status,
      title: 'No answer',
      detail: 'The server did not answer as expected. Nothing is known to have changed; reload and look.',
    };
  }
}
