import { cleanFileName } from '@kindred/core/naming/file-name';
import { allows } from '@kindred/core/people/rights';
import { Server } from '@tus/server';
import { and, eq } from 'drizzle-orm';
import type { Request, RequestHandler } from 'express';
import { AsyncLocalStorage } from 'node:async_hooks';
import { randomBytes } from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import { authorise, type Member } from '../platform/actor.ts';
import { notAllowed, notFound, ProblemError, refused } from '../platform/errors.ts';
import { diskFull } from '../platform/http.ts';
import { blobs } from '../platform/schema.ts';
import { now } from '../platform/clock.ts';
import type { Platform } from '../platform/services.ts';
import { HashingStore } from './hashing-store.ts';
import { uploads } from './schema.ts';

const PATH = '/api/uploads';
/** With less free than this, a write that failed has failed for want of room. */
const LEAST_FREE = 2 ** 20;

/**
 * Resumable uploads (tus 1.0). Rights are checked before the protocol sees a request; a finished file is hashed,
 * moved into the store, and then waits for its delivery.
 */
export function uploadHandler(platform: Platform): RequestHandler {
  const folder = path.join(platform.config.dataFolder, 'uploads');
  fs.mkdirSync(folder, { recursive: true });
  const store = new HashingStore({ directory: folder });
  const tus = new Server({
    path: PATH,
    relativeLocation: true,
    datastore: store,
    maxSize: platform.config.maxUploadBytes,
    allowedOrigins: [platform.config.publicUrl],
    namingFunction: () => randomBytes(16).toString('hex'),
    async onUploadFinish(_request, upload) {
      const { sha256, size } = await platform.store.putFile(
        path.join(folder, upload.id),
        await store.takeHash(upload.id, upload.size ?? 0),
      );
      await platform.db.insert(blobs).values({ sha256, size, createdAt: now() }).onConflictDoNothing();
      await platform.db.update(uploads).set({ sha256 }).where(eq(uploads.id, upload.id));
      fs.rmSync(path.join(folder, `${upload.id}.json`), { force: true });
      return {};
    },
    async onUploadCreate(_request, upload) {
      const admission = admissions.getStore()!;
      await platform.db
        .insert(uploads)
        .values({ ...admission, id: upload.id, size: upload.size ?? 0, createdAt: now() });
      return {};
    },
    async onResponseError(_request, error) {
      if ('status_code' in error && error.status_code < 500) return undefined;
      const { bavail, bsize } = await fs.promises.statfs(folder);
      if (bavail * bsize < LEAST_FREE) return { status_code: 507, body: JSON.stringify(diskFull().toProblem()) };
      platform.log.error({ err: error }, 'upload failed');
      const problem = new ProblemError(
        500,
        'upload-failed',
        'The upload was interrupted',
        'What has arrived is kept. Try again to go on from there.',
      ).toProblem();
      return { status_code: 500, body: JSON.stringify(problem) };
    },
  });
  return (request, response, next) => {
    void admit(platform, request)
      .then((admission) => admissions.run(admission, () => tus.handle(request, response)))
      .catch(next);
  };
}

/** Who sends which file: found out before the protocol runs, used when it creates the upload. */
interface Admission {
  projectId: string;
  userId: string;
  fileName: string;
}
const admissions = new AsyncLocalStorage<Admission | undefined>();

async function admit(platform: Platform, request: Request): Promise<Admission | undefined> {
  if (request.method === 'OPTIONS') return undefined;
  if (request.method === 'POST') {
    const metadata = parseMetadata(request.headers['upload-metadata']);
    const projectId = metadata.projectId ?? '';
    if (!/^[0-9a-f-]{36}$/.test(projectId)) throw notFound('project');
    request.params.projectId = projectId;
    const member = (await authorise(platform.pool, request, { kind: 'register', action: 'add' })) as Member;
    const size = Number(request.headers['upload-length']);
    const fileName = cleanFileName(metadata.filename ?? '');
    if (size === 0)
      throw refused('empty-file', `“${fileName}” is empty. Nothing was uploaded; check the file where it was made.`);
    if (size > platform.config.maxUploadBytes)
      throw new ProblemError(
        413,
        'too-large',
        'File too large',
        `“${fileName}” is larger than this installation accepts (${Math.floor(platform.config.maxUploadBytes / 2 ** 20)} MB).`,
      );
    return { projectId, userId: member.id, fileName };
  }
  const id = /\/([a-f0-9]{32})$/.exec(request.originalUrl.split('?')[0]!)?.[1];
  const actor = await authorise(platform.pool, request, 'signed in');
  const [upload] =
    id && actor
      ? await platform.db
          .select()
          .from(uploads)
          .where(and(eq(uploads.id, id), eq(uploads.userId, actor.id)))
      : [];
  if (!upload) throw notFound('upload');
  request.params.projectId = upload.projectId;
  const member = (await authorise(platform.pool, request, 'member')) as Member;
  if (!allows(member.standing, { kind: 'register', action: 'add' }))
    throw notAllowed('You may no longer deliver files to this project.');
  return undefined;
}

function parseMetadata(header: string | string[] | undefined): Record<string, string> {
  const pairs = String(header ?? '')
    .split(',')
    .map((pair) => pair.trim().split(' '));
  return Object.fromEntries(
    pairs.map(([key = '', value = '']) => [key, Buffer.from(value, 'base64').toString('utf8')]),
  );
}
