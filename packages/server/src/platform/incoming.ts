/** What others send: how much of it, how deep, and how slowly. Nothing is read before it is known who sends it. */
import { jsonBounds } from '@kindred/core/platform/json-bounds';
import express, { type Request, type RequestHandler, type Response } from 'express';
import type { IncomingMessage } from 'node:http';
import { ProblemError } from './errors.ts';

export const LARGEST_BODY = 100_000;
/** What somebody may send who has not signed in. */
export const LARGEST_UNKNOWN_BODY = 5_000;
const DEEPEST = 24;
const MOST_PARTS = 250_000;

const refuse = (code: string, detail: string): ProblemError =>
  new ProblemError(400, code, 'Not a request that can be read', `${detail} Nothing was changed.`);

function requireBounds(text: Buffer): void {
  const { depth, parts } = jsonBounds(text);
  if (depth > DEEPEST) throw refuse('too-deep', `It nests ${depth} levels deep; ${DEEPEST} are allowed.`);
  if (parts > MOST_PARTS) throw refuse('too-many-parts', `It holds more than ${MOST_PARTS} values.`);
}

const parsers = new Map<number, RequestHandler>();
const parserFor = (limit: number): RequestHandler => {
  let parser = parsers.get(limit);
  if (!parser) {
    const verify = (_request: IncomingMessage, _response: unknown, text: Buffer): void => requireBounds(text);
    parser = express.json({ limit, inflate: false, strict: false, verify });
    parsers.set(limit, parser);
  }
  return parser;
};

/** The JSON of a request of at most `limit` bytes; undefined where none was sent. */
export async function readJson(request: Request, response: Response, limit: number): Promise<unknown> {
  await new Promise<void>((resolve, reject) =>
    parserFor(limit)(request, response, (error?: unknown) => {
      if (!error) return resolve();
      const { type, body } = error as { type?: string; body?: unknown };
      // Whatever `requireBounds` throws comes wrapped.
      if (error instanceof ProblemError) return reject(error);
      if (type === 'entity.too.large')
        return reject(
          new ProblemError(
            413,
            'too-large',
            'Too much at once',
            `This request may hold ${Math.floor(limit / 1000)} kB. Nothing was changed. Files go through uploads.`,
          ),
        );
      if (type === 'entity.parse.failed' || body !== undefined)
        return reject(
          new ProblemError(
            400,
            'invalid-json',
            'Not valid JSON',
            'The body of the request could not be read. Nothing was changed.',
          ),
        );
      reject(error as Error);
    }),
  );
  return request.body as unknown;
}

/** How long somebody may take to send, and how fast they have to be. */
export interface Patience {
  /** Seconds between two looks at how far a sender has come. */
  seconds: number;
  bytesPerSecond: number;
}

/** Ends the connection of whoever sends more slowly than that: each holds memory and a place. */
export function endSlow(request: IncomingMessage, { seconds, bytesPerSecond }: Patience): void {
  const { headers, socket } = request;
  if (!Number(headers['content-length'] ?? 0) && !headers['transfer-encoding']) return;
  let before = socket.bytesRead;
  const look = setInterval(() => {
    if (request.complete || socket.destroyed) return clearInterval(look);
    const came = socket.bytesRead - before;
    before = socket.bytesRead;
    // Where it is paused, they wait for us.
    if (!request.isPaused() && came < seconds * bytesPerSecond) socket.destroy();
  }, seconds * 1000);
  request.once('close', () => clearInterval(look));
}
