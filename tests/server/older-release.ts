/** A database as an older release left it. */
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { migrateDatabase, openDatabase, type DatabaseHandle } from '../../packages/server/src/platform/database.ts';
import { newDatabase } from './harness.ts';

export const MIGRATIONS = path.resolve('packages/server/migrations');

/** With the migrations up to one, as a release of that time had them. */
export async function olderDatabase(tag: string): Promise<DatabaseHandle> {
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-migrations-'));
  const journal = JSON.parse(fs.readFileSync(path.join(MIGRATIONS, 'meta/_journal.json'), 'utf8')) as {
    entries: { tag: string }[];
  };
  const last = journal.entries.findIndex((entry) => entry.tag === tag);
  const entries = journal.entries.slice(0, last + 1);
  fs.mkdirSync(path.join(folder, 'meta'));
  fs.writeFileSync(path.join(folder, 'meta/_journal.json'), JSON.stringify({ ...journal, entries }));
  for (const entry of entries)
    fs.copyFileSync(path.join(MIGRATIONS, `${entry.tag}.sql`), path.join(folder, `${entry.tag}.sql`));
  const handle = openDatabase(await newDatabase('migrations'), 1);
  await migrateDatabase(handle, folder);
  fs.rmSync(folder, { recursive: true, force: true });
  return handle;
}
