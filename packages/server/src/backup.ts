/**
 * A copy of an installation while it runs, and the way back. The database is dumped from one snapshot; files never change, so
 * those that the snapshot names are copied after it, while nothing is removed. What an earlier copy has is not copied again.
 */
import { sql } from 'drizzle-orm';
import { spawn } from 'node:child_process';
import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import fs from 'node:fs/promises';
import path from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import pg from 'pg';
import { KEEP_BLOBS, type Db } from './platform/database.ts';
import type { BlobStore } from './platform/storage/store.ts';
import { VERSION } from './platform/version.ts';

export interface Installation {
  databaseUrl: string;
  store: BlobStore;
}
export interface Manifest {
  version: string;
  at: string;
  /** Name of the dump within the folder, and its SHA-256. */
  dump: string;
  sha256: string;
  blobs: number;
  bytes: number;
}
export interface BackupResult extends Manifest {
  copied: number;
}

const MANIFEST = 'backup.json';
const blobPath = (folder: string, sha256: string): string => path.join(folder, 'blobs', sha256.slice(0, 2), sha256);

/** Makes or renews the copy in a folder; it counts once its manifest is written. Throws when anything named is not there whole. */
export async function backUp({ databaseUrl, store }: Installation, folder: string): Promise<BackupResult> {
  await fs.mkdir(folder, { recursive: true });
  const client = new pg.Client(databaseUrl);
  await client.connect();
  try {
    await client.query('select pg_advisory_lock($1)', [KEEP_BLOBS]);
    await client.query('begin isolation level repeatable read');
    const { rows } = await client.query<{ snapshot: string }>('select pg_export_snapshot() as snapshot');
    const at = new Date();
    const dump = `database-${at.toISOString().replace(/[:.]/g, '-')}.dump`;
    await run(
      'pg_dump',
      ['--format=custom', `--snapshot=${rows[0]!.snapshot}`, `--file=${path.join(folder, dump)}`],
      databaseUrl,
    );
    await run('pg_restore', ['--list', path.join(folder, dump)], databaseUrl);
    const named = await client.query<{ sha256: string; size: string }>(
      'select sha256, size from blobs order by sha256',
    );
    await client.query('commit');
    let [copied, bytes] = [0, 0];
    for (const { sha256, size } of named.rows) {
      bytes += Number(size);
      if (await copyBlob(store, folder, sha256, Number(size))) copied++;
    }
    const manifest: Manifest = {
      version: VERSION,
      at: at.toISOString(),
      dump,
      sha256: await hashOfFile(path.join(folder, dump)),
      blobs: named.rows.length,
      bytes,
    };
    const beside = path.join(folder, `${MANIFEST}.new`);
    await fs.writeFile(beside, `${JSON.stringify(manifest, null, 2)}\n`);
    await fs.rename(beside, path.join(folder, MANIFEST));
    return { ...manifest, copied };
  } finally {
    // Ends the lock, too.
    await client.end();
  }
}

/** Answers whether it had to be copied. The content is held against its hash on the way. */
async function copyBlob(store: BlobStore, folder: string, sha256: string, size: number): Promise<boolean> {
  const target = blobPath(folder, sha256);
  const known = await fs.stat(target).catch(unlessAbsent);
  if (known?.size === size) return false;
  await fs.mkdir(path.dirname(target), { recursive: true });
  const beside = `${target}.${randomUUID()}`;
  const { watch, digest } = hashing();
  try {
    await pipeline(await store.read(sha256), watch, (await fs.open(beside, 'w')).createWriteStream({ flush: true }));
    if (digest() !== sha256) throw new Error(`The file ${sha256} is not what its hash says. Run “npm run check”.`);
    await fs.rename(beside, target);
  } catch (error) {
    await fs.rm(beside, { force: true });
    throw error;
  }
  return true;
}

/** Brings a copy back into an empty database and an empty store. */
export async function restore({ databaseUrl, store }: Installation, folder: string): Promise<Manifest> {
  const manifest = JSON.parse(await fs.readFile(path.join(folder, MANIFEST), 'utf8')) as Manifest;
  const dump = path.join(folder, manifest.dump);
  if ((await hashOfFile(dump)) !== manifest.sha256)
    throw new Error('The dump of this copy is damaged: nothing was restored.');
  const client = new pg.Client(databaseUrl);
  await client.connect();
  try {
    const { rows } = await client.query(
      `select 1 from information_schema.tables where table_schema = 'public' limit 1`,
    );
    if (rows.length) throw new Error('The database is not empty: nothing was restored. Name an empty one.');
    // Files first: a database that names files has them.
    for await (const file of blobsIn(folder)) {
      const { sha256 } = await store.putStream(createReadStream(file));
      if (sha256 !== path.basename(file)) throw new Error(`The file ${path.basename(file)} of this copy is damaged.`);
    }
    await run(
      'pg_restore',
      [
        '--no-owner',
        '--exit-on-error',
        '--single-transaction',
        `--dbname=${new URL(databaseUrl).pathname.slice(1)}`,
        dump,
      ],
      databaseUrl,
    );
  } finally {
    await client.end();
  }
  return manifest;
}

async function* blobsIn(folder: string): AsyncGenerator<string> {
  for (const part of await fs.readdir(path.join(folder, 'blobs')).catch(() => []))
    for (const name of await fs.readdir(path.join(folder, 'blobs', part)))
      if (/^[0-9a-f]{64}$/.test(name)) yield path.join(folder, 'blobs', part, name);
}

export interface Checked {
  blobs: number;
  /** Files whose content is not what their name says. */
  damaged: string[];
  /** Named by a row, and not there. */
  missing: string[];
}

/** Holds every file against its hash, and every row that names a file against the files. `named`: selects of hashes. */
export async function check(db: Db, store: BlobStore, named: readonly ReturnType<typeof sql>[]): Promise<Checked> {
  const here = new Set<string>();
  const damaged: string[] = [];
  for await (const { sha256 } of store.list()) {
    here.add(sha256);
    const { watch, digest } = hashing();
    await pipeline(await store.read(sha256), watch.resume());
    if (digest() !== sha256) damaged.push(sha256);
  }
  const { rows } = await db.execute<{ sha256: string }>(
    sql`select distinct sha256 from (${sql.join([...named, sql`select sha256 from blobs`], sql` union all `)}) n where sha256 is not null`,
  );
  const missing = rows.map(({ sha256 }) => sha256).filter((sha256) => !here.has(sha256));
  return { blobs: here.size, damaged, missing };
}

function hashing(): { watch: Transform; digest(): string } {
  const hash = createHash('sha256');
  const watch = new Transform({
    transform(part: Buffer, _encoding, done) {
      hash.update(part);
      done(null, part);
    },
  });
  return { watch, digest: () => hash.digest('hex') };
}

async function hashOfFile(file: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const part of createReadStream(file)) hash.update(part as Buffer);
  return hash.digest('hex');
}

const unlessAbsent = (error: { code?: string }): undefined => {
  if (error.code !== 'ENOENT') throw error;
};

/** The address of the database goes by the environment: a command line can be read by others of the machine. */
function run(program: string, args: readonly string[], databaseUrl: string): Promise<void> {
  const { hostname, port, username, password, pathname } = new URL(databaseUrl);
  const env = {
    ...process.env,
    PGHOST: hostname,
    PGPORT: port || '5432',
    PGUSER: decodeURIComponent(username),
    PGPASSWORD: decodeURIComponent(password),
    PGDATABASE: decodeURIComponent(pathname.slice(1)),
  };
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, { env, stdio: ['ignore', 'ignore', 'pipe'] });
    let said = '';
    child.stderr.on('data', (part: Buffer) => (said += part.toString().slice(0, 2000)));
    child.once('error', () => reject(new Error(`${program} is missing: install PostgreSQL’s client programs.`)));
    child.once('exit', (code) => (code === 0 ? resolve() : reject(new Error(`${program} failed: ${said.trim()}`))));
  });
}
