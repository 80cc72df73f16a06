import { counted } from '@kindred/words/sentence';
import type { RequestHandler } from 'express';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import type pg from 'pg';
import { ProblemError } from './errors.ts';
import { Pace } from './pace.ts';

export interface Limit {
  name: string;
  /** Tries in so many seconds. */
  tries: number;
  seconds: number;
}

/** Counts tries in the database, so that a limit holds whichever node is asked; throws 429 when there are too many. */
export function counter(
  pool: pg.Pool,
  { name, tries, seconds }: Limit,
): (key: string, tries?: number) => Promise<void> {
  let limiter: RateLimiterPostgres | undefined;
  const made = (): RateLimiterPostgres =>
    new RateLimiterPostgres({
      storeClient: pool,
      tableName: 'rate_limits',
      tableCreated: true,
      keyPrefix: name,
      points: tries,
      duration: seconds,
      clearExpiredByTimeout: false,
    });
  return async (key, spent = 1) => {
    try {
      await (limiter ??= made()).consume(key, spent);
    } catch (reason) {
      if (!(reason instanceof RateLimiterRes)) throw reason;
      throw tooMany(Math.ceil(reason.msBeforeNext / 1000));
    }
  };
}

const duration = (seconds: number): string => {
  if (seconds < 120) return counted(seconds, 'second');
  return seconds < 7200 ? counted(Math.ceil(seconds / 60), 'minute') : counted(Math.ceil(seconds / 3600), 'hour');
};

export const tooMany = (seconds: number): ProblemError =>
  new ProblemError(
    429,
    'too-many-tries',
    'Too much at once',
    `Nothing was changed. Wait ${duration(seconds)}, then try again.`,
    undefined,
    seconds,
  );

/** What a person may do so many times within 24 hours. */
export const daily = (
  pool: pg.Pool,
  name: string,
  most: number,
): ((personId: string, times?: number) => Promise<void>) => counter(pool, { name, tries: most, seconds: 86_400 });

/** For those who have not signed in, by their address. Looks are not counted. */
export function limitTries(pool: pg.Pool, limit: Limit): RequestHandler {
  const count = counter(pool, limit);
  return (request, _response, next) => {
    if (request.method === 'GET') return next();
    count(request.ip ?? 'unknown').then(() => next(), next);
  };
}

/** How many costly requests a minute one person may make, and all people of a project together. */
export interface CostlyPerMinute {
  person: number;
  project: number;
}

/** Budgets of costly requests: kept in the database by the minute, and where `paced` in memory against many within a few seconds. */
export function costlyRequests(pool: pg.Pool, { person, project }: CostlyPerMinute, paced: boolean) {
  const pace = paced ? new Pace(Math.ceil(person / 4), person / 60) : new Pace(0, 0);
  const byPerson = counter(pool, { name: 'costly-person', tries: person, seconds: 60 });
  const byProject = counter(pool, { name: 'costly-project', tries: project, seconds: 60 });
  return async (personId: string, projectId: string | null): Promise<void> => {
    if (!pace.take(personId)) throw tooMany(1);
    await byPerson(personId);
    if (projectId) await byProject(projectId);
  };
}
