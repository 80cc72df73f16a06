import type { AnyOperation, Body, Params, Query, Response } from '@kindred/contract/platform/operation';
import { isStorable } from '@kindred/core/platform/storable';
import { Router, type NextFunction, type Request, type Response as ExpressResponse } from 'express';
import { setTimeout } from 'node:timers/promises';
import type { Actor, Member } from './caller.ts';
import { at } from './clock.ts';
import { ProblemError } from './errors.ts';
import { LARGEST_BODY, LARGEST_UNKNOWN_BODY, readJson } from './incoming.ts';
import { JsonText } from './json-text.ts';
import { Pace } from './pace.ts';
import { costlyRequests, tooMany } from './rate-limit.ts';
import type { Platform } from './services.ts';
import { compileDocument, compileText, fieldsOf } from './validation.ts';

type ActorFor<O extends AnyOperation> = O['access'] extends 'public'
  ? Actor | undefined
  : O['access'] extends 'signed in'
    ? Actor
    : Member;

export interface Call<O extends AnyOperation> {
  params: Params<O> & Record<string, string>;
  query: Query<O>;
  body: Body<O>;
  actor: Member & Actor;
  request: Request;
  response: ExpressResponse;
}

export interface Route {
  operation: AnyOperation;
  handle(call: Call<AnyOperation>): Promise<unknown>;
}

/** Binds an operation of the contract to what the server does for it. */
export function route<O extends AnyOperation>(
  operation: O,
  handle: (
    call: Omit<Call<O>, 'actor'> & { actor: ActorFor<O> },
  ) => Promise<Response<O> | JsonText<Response<O>> | void>,
): Route {
  return { operation, handle: handle as unknown as Route['handle'] };
}

const HELD_MS = 1000;

/** Routes of all capabilities behind rights, validation of what comes in (and, where we test, of what goes out), and the one error shape. */
export function apiRouter(platform: Platform, routes: readonly Route[]): Router {
  const router = Router();
  const { costlyPerMinute, requestsPerSecond } = platform.config;
  const spend = costlyRequests(platform.pool, costlyPerMinute, requestsPerSecond > 0);
  const requests = new Pace(requestsPerSecond * 5, requestsPerSecond);
  /** What cannot be read costs as much as what can, and nobody needs it often. */
  const unreadable = new Pace(requestsPerSecond / 2, requestsPerSecond / 20);
  for (const { operation, handle } of routes) {
    const params = compileText(operation.params);
    const query = compileText(operation.query);
    const body = compileDocument(operation.body);
    const largest = operation.access === 'public' ? LARGEST_UNKNOWN_BODY : (operation.largestBody ?? LARGEST_BODY);
    const answer = platform.config.checkAnswers && compileDocument(operation.response);
    router[operation.method](operation.path, (request, response, next) => {
      const run = async (): Promise<void> => {
        if (params(request.params))
          throw new ProblemError(404, 'not-found', 'Not found', 'There is nothing at this address.');
        const actor = (await platform.gate.admit(request, operation)) as Member;
        const caller = actor?.id ?? request.ip ?? 'unknown';
        try {
          if (!unreadable.has(caller) || (!operation.binary && !requests.take(caller))) throw tooMany(1);
          if (operation.costly) await spend(actor.id, (request.params.projectId as string | undefined) ?? null);
        } catch (error) {
          // Whoever asks too much waits for the answer: asking again at once would cost the others as much.
          if (error instanceof ProblemError && error.status === 429)
            await setTimeout(HELD_MS, undefined, { ref: false });
          throw error;
        }
        const asked = { ...request.query };
        const wrongQuery = query(asked);
        if (wrongQuery) throw invalid('query', fieldsOf(wrongQuery));
        async function readSent(): Promise<unknown> {
          try {
            const read = operation.body.type === 'null' ? null : await readJson(request, response, largest);
            if (![request.params, asked, read].every(isStorable)) throw notText();
            const wrong = body(read);
            if (wrong) throw invalid('body', fieldsOf(wrong));
            return read;
          } catch (error) {
            unreadable.take(caller);
            throw error;
          }
        }
        const sent = await readSent();
        const result = await handle({
          params: request.params as never,
          query: asked as never,
          body: sent as never,
          actor,
          request,
          response,
        });
        if (operation.binary || response.headersSent) return;
        if (operation.response.type === 'null') {
          response.status(204).end();
          return;
        }
        const text = result instanceof JsonText ? result.text : JSON.stringify(result);
        const wrongAnswer = answer && answer(JSON.parse(text));
        if (wrongAnswer)
          throw new Error(`${operation.id} answered outside the contract: ${JSON.stringify(wrongAnswer[0])}`);
        // Without an ETag: hashing every answer costs more than lists that change by the minute would save.
        const bytes = Buffer.from(text);
        response.setHeader('content-type', 'application/json; charset=utf-8');
        response.setHeader('content-length', bytes.length);
        response.end(bytes);
      };
      const moment = pretendedMoment(platform, request);
      void (moment ? at(moment, run) : run()).catch(next);
    });
  }
  return router;
}

const notText = (): ProblemError =>
  new ProblemError(
    400,
    'not-text',
    'Not a request that can be kept',
    'It holds a value that is no text or no number: NUL, half of a character, or a number without end. Nothing was changed.',
  );

function invalid(part: string, fields: ReturnType<typeof fieldsOf>): ProblemError {
  const first = fields[0];
  const detail = first
    ? `${first.path ? `“${first.path.replace(/^\//, '')}” ` : ''}${first.message}. Nothing was changed.`
    : 'Nothing was changed.';
  return new ProblemError(400, 'invalid-request', `The ${part} of the request is not valid`, detail, fields);
}

function pretendedMoment({ config }: Platform, request: Request): Date | undefined {
  const secret = config.demoClockSecret;
  if (!secret || request.headers['x-demo-clock-secret'] !== secret) return undefined;
  const moment = new Date(String(request.headers['x-demo-clock']));
  return Number.isNaN(moment.getTime()) ? undefined : moment;
}

/** Every error leaves as problem details; what was not foreseen is logged and tells nothing of the inside. */
export function problemHandler({ log }: Pick<Platform, 'log'>) {
  return (error: unknown, request: Request, response: ExpressResponse, _next: NextFunction): void => {
    void _next;
    const leftBefore = (error as { code?: unknown } | null)?.code === 'ERR_STREAM_PREMATURE_CLOSE';
    if (response.headersSent || leftBefore) {
      // Whoever went away before the end misses nothing; all else that breaks an answer off is known here alone.
      if (!leftBefore) log.error({ err: error, path: request.path }, 'answer broken off');
      response.destroy();
      return;
    }
    const problem = asProblem(error);
    if (problem.status >= 500) log.error({ err: error, path: request.path }, 'request failed');
    if (problem.retryAfter) response.setHeader('Retry-After', problem.retryAfter);
    const told = problem.toProblem();
    // Programs that speak a standard look for the words where it has them.
    const body = STANDARDS.test(request.originalUrl) ? { ...told, message: told.detail } : told;
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(body));
  };
}

const STANDARDS = /^\/(?:bcf|foundation)\//;

const DISK_FULL = new Set(['ENOSPC', 'EDQUOT', '53100']);
/** Cannot connect, connection lost, shutting down, starting up, too many connections (PostgreSQL, appendix A). */
const DATABASE_AWAY = /^(?:ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|08...|57P0[123]|53300)$/;

/** Data exceptions: a value that a column does not take (PostgreSQL, appendix A, class 22). */
const NOT_STORABLE = /^22(?:003|007|008|021|P02|P03|P05)$/;

export const diskFull = (): ProblemError =>
  new ProblemError(
    507,
    'disk-full',
    'The disk of the server is full',
    'What is in the project is safe; this was not saved. Tell whoever runs this installation, then try again.',
  );

interface Failure {
  status?: number;
  code?: string;
}
/** What lies behind an error that others have wrapped. A connection that ends in the middle says so in words alone. */
function rootOf(error: unknown): Failure {
  let root = error as Failure & { cause?: unknown; message?: string };
  while (root.cause && typeof root.cause === 'object') root = root.cause as typeof root;
  const cut = /Connection terminated|connection is closed|Client has encountered a connection error/.test(
    root.message ?? '',
  );
  return cut ? { code: '08006' } : root;
}

/** What an error is said as. */
export function asProblem(error: unknown): ProblemError {
  if (error instanceof ProblemError) return error;
  const { status, code } = rootOf(error);
  if (code && DISK_FULL.has(code)) return diskFull();
  if (code && DATABASE_AWAY.test(code))
    return new ProblemError(
      503,
      'database-away',
      'The database does not answer',
      'Nothing was changed. Try again in a moment; whoever runs this installation can see why.',
    );
  if (code && NOT_STORABLE.test(code)) return notText();
  if (status && status >= 400 && status < 500)
    return new ProblemError(status, 'bad-request', 'Not a valid request', (error as Error).message);
  return new ProblemError(
    500,
    'unexpected',
    'Something went wrong on the server',
    'Nothing was changed. Try again; if it happens again, tell whoever runs this installation.',
  );
}
