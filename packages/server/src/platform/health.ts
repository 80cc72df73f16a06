import { health } from '@kindred/contract/platform/health';
import { sql } from 'drizzle-orm';
import type { ServerResponse } from 'node:http';
import { route, type Route } from './http.ts';
import type { Platform } from './services.ts';
import { VERSION } from './version.ts';

export const healthRoutes = (platform: Platform): Route[] => [
  route(health, async ({ response }) => {
    if (platform.config.loading) {
      sendStarting(response);
      return;
    }
    await platform.db.execute(sql`select 1`);
    return { status: 'ok', version: VERSION, database: 'ok', jobs: await platform.jobs.counts(platform.db) };
  }),
];

/** Not everything that was promised is there yet: whoever asks comes again. */
export function sendStarting(response: ServerResponse): void {
  response.writeHead(503, { 'content-type': 'application/json; charset=utf-8', 'retry-after': '2' });
  response.end(JSON.stringify({ status: 'starting', version: VERSION }));
}
