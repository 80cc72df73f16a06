/** Calls the operations of the contract, from browsers and programs alike. */
import type { AnyOperation, Body, Params, Query, Response as Answer } from '@kindred/contract/platform/operation';
import type { Problem } from '@kindred/contract/platform/problem';

type Value = string | number | boolean | null | undefined;

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

/** The server cannot be reached: nothing is known to have changed. */
export class Unreachable extends Error {}

/** The address of an operation below `/api`; values that are empty are left out of its query. */
export function addressOf(
  operation: AnyOperation,
  params: Record<string, Value> = {},
  query: Record<string, Value> = {},
): string {
  const path = operation.path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(params[name])));
  const given = Object.entries(query).filter(([, value]) => value !== undefined && value !== null && value !== '');
  const search = new URLSearchParams(given.map(([key, value]) => [key, String(value)])).toString();
  return `/api${path}${search ? `?${search}` : ''}`;
}

export interface ClientSettings {
  /** Where the server is; the page's own address when empty. */
  server: string;
  /** Sent with every request: who calls. */
  headers(): Record<string, string>;
  /** Hears of every answer, before it is judged. */
  heard?(response: Response): void;
}
export type Call = <O extends AnyOperation>(operation: O, args?: Arguments<O>) => Promise<Answer<O>>;

const MOST_TRIES = 3;
/** Longer than that nobody waits without being told. */
const LONGEST_WAIT_MS = 3000;

/** Milliseconds to wait before asking once more: who only reads, and asked too fast, need not hear of it. */
function waitBefore(operation: AnyOperation, response: Response, tries: number): number | undefined {
  if (response.status !== 429 || operation.method !== 'get' || tries >= MOST_TRIES) return undefined;
  const wait = Number(response.headers.get('retry-after') ?? 1) * 1000;
  return wait <= LONGEST_WAIT_MS ? wait : undefined;
}

/** Answers what the operation answers; rejects with ApiProblem where it is refused, with Unreachable where nobody answers. */
export function createClient({ server, headers, heard }: ClientSettings): Call {
  return async <O extends AnyOperation>(operation: O, { params, query, body }: Arguments<O> = {}) => {
    const address = addressOf(operation, params as Record<string, Value>, query as Record<string, Value>);
    const ask = () =>
      reach(server + address, {
        method: operation.method.toUpperCase(),
        headers: { ...headers(), ...(body !== undefined && { 'content-type': 'application/json' }) },
        ...(body !== undefined && { body: JSON.stringify(body) }),
      });
    let response = await ask();
    for (let tries = 1, wait; (wait = waitBefore(operation, response, tries)) !== undefined; tries++) {
      await new Promise((resolve) => setTimeout(resolve, wait));
      response = await ask();
    }
    const text = await response.text();
    heard?.(response);
    if (response.ok) return (text ? JSON.parse(text) : null) as Answer<O>;
    throw new ApiProblem(problemFrom(text, response.status));
  };
}

async function reach(address: string, init: RequestInit): Promise<Response> {
  try {
    return await fetch(address, init);
  } catch (error) {
    // fetch rejects with TypeError alone where no answer comes.
    if (!(error instanceof TypeError)) throw error;
    throw new Unreachable(error.message);
  }
}

export function problemFrom(text: string, status: number): Problem {
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
