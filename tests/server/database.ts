/** One PostgreSQL cluster for all server tests; each test file makes its own database in it. */
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { startPostgres } from '../../scripts/postgres.mjs';

export default async function setup({
  provide,
}: {
  provide(key: 'databaseUrl', value: string): void;
}): Promise<() => void> {
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-test-'));
  fs.chmodSync(folder, 0o755);
  const postgres = await startPostgres(path.join(folder, 'postgres'), {
    settings: ['fsync=off', 'max_connections=200'],
  });
  provide('databaseUrl', postgres.url);
  return () => {
    postgres.remove();
    fs.rmSync(folder, { recursive: true, force: true });
  };
}

declare module 'vitest' {
  export interface ProvidedContext {
    databaseUrl: string;
  }
}
