import type { Response } from 'express';
import { createGunzip } from 'node:zlib';
import { pipeline } from 'node:stream/promises';
import type { Platform } from './services.ts';

export type Encoding = '' | 'gzip';

/**
 * Streams a blob. What an address answers may depend on who asks, and may be taken back from them: browsers keep it, but ask each
 * time whether they may still use it.
 */
export async function sendBlob(
  { store }: Pick<Platform, 'store'>,
  response: Response,
  sha256: string,
  mediaType: string,
  encoding: Encoding = '',
): Promise<void> {
  response.setHeader('Content-Type', mediaType);
  response.setHeader('ETag', `"${sha256}"`);
  response.setHeader('Cache-Control', 'private, no-cache');
  if (encoding) response.vary('Accept-Encoding');
  if (response.req.headers['if-none-match'] === `"${sha256}"`) {
    response.status(304).end();
    return;
  }
  const stored = await store.read(sha256);
  if (!encoding) return pipeline(stored, response);
  if (!response.req.acceptsEncodings(encoding)) return pipeline(stored, createGunzip(), response);
  response.setHeader('Content-Encoding', encoding);
  await pipeline(stored, response);
}
