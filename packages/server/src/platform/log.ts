import pino, { type Logger } from 'pino';

interface DatabaseFailure extends Error {
  severity?: string;
  code?: string;
  table?: string;
  constraint?: string;
  routine?: string;
  query?: string;
  cause?: unknown;
}

/** What is logged of an error. Errors of the database quote what people wrote: of them only what names the place. */
export function loggable(error: unknown): unknown {
  const failure = error as DatabaseFailure;
  const root = (failure?.cause ?? failure) as DatabaseFailure;
  // Not what hangs on an error besides: a lost connection carries its whole client along.
  if (!root?.severity && failure?.query === undefined)
    return {
      type: failure?.name,
      code: failure?.code,
      message: failure?.message ?? String(error),
      stack: failure?.stack,
    };
  const { code, table, constraint, routine } = root;
  const frames = failure.stack?.split('\n').filter((line) => /^\s+at /.test(line));
  const statement = failure.query?.slice(0, 2000);
  return { type: 'database', code, table, constraint, routine, statement, stack: frames?.join('\n') };
}

export const createLog = (level: string): Logger => pino({ level, serializers: { err: loggable } });
