import { health } from '@kindred/contract/platform/health';
import { sql } from 'drizzle-orm';
import { route, type Route } from './http.ts';
import type { Platform } from './services.ts';
import { VERSION } from './version.ts';

export const healthRoutes = (platform: Platform): Route[] => [
  route(health, async () => {
    await platform.db.execute(sql`select 1`);
    return { status: 'ok', version: VERSION, database: 'ok', jobs: await platform.jobs.counts(platform.db) };
  }),
];
