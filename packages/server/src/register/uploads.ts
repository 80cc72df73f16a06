import { cleanFileName } from '@kindred/core/naming/file-name';
import { allows } from '@kindred/core/people/rights';
import { FileStore } from '@tus/file-store';
import { Server } from '@tus/server';
import { and, eq } from 'drizzle-orm';
import type { Request, RequestHandler } from 'express';
import { randomBytes } from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import { authorise, type Member } from '../platform/actor.ts';
import { notAllowed, notFound, ProblemError, refused } from '../platform/errors.ts';
import { blobs } from '../platform/schema.ts';
import { now } from '../platform/clock.ts';
import type { Platform } from '../platform/services.ts';
import { uploads } from './schema.ts';

const PATH = '/api/uploads';

/**
 * Resumable uploads (tus 1.0). Rights are checked before the protocol sees a request; a finished file is hashed,
 * moved into the store, and then waits for its delivery.
 */
export function uploadHandler(platform: Platform): RequestHandler {
  const folder = path.join(platform.config.dataFolder, 'uploads');
  fs.mkdirSync(folder, { recursive: true });
  const tus = new Server({
    path: PATH,
    relativeLocation: true,
    datastore: new FileStore({ directory: folder }),
    maxSize: platform.config.maxUploadBytes,
    namingFunction: () => randomBytes(16).toString('hex'),
    async onUploadFinish(_request, upload) {
      const { sha256, size } = await platform.store.putFile(path.join(folder, upload.id));
      await platform.db.insert(blobs).values({ sha256, size, createdAt: now() }).onConflictDoNothing();
      await platform.db.update(uploads).set({ sha256 }).where(eq(uploads.id, upload.id));
      fs.rmSync(path.join(folder, `${upload.id}.json`), { force: true });
      return {};
    },
    async onUploadCreate(_request, upload) {
      const { projectId, userId, fileName } = upload.metadata as Record<string, string>;
      await platform.db.insert(uploads).values({ id: upload.id, projectId: projectId!, userId: userId!, fileName: fileName!, size: upload.size ?? 0, createdAt: now() });
      return { metadata: upload.metadata };
    },
  });
  return (request, response, next) => {
    void admit(platform, request)
      .then(() => tus.handle(request, response))
      .catch(next);
  };
}

async function admit(platform: Platform, request: Request): Promise<void> {
  if (request.method === 'OPTIONS') return;
  if (request.method === 'POST') {
    const metadata = parseMetadata(request.headers['upload-metadata']);
    const projectId = metadata.projectId ?? '';
    if (!/^[0-9a-f-]{36}$/.test(projectId)) throw notFound('project');
    request.params.projectId = projectId;
    const member = (await authorise(platform.pool, request, { kind: 'register', action: 'add' })) as Member;
    const size = Number(request.headers['upload-length']);
    const fileName = cleanFileName(metadata.filename ?? '');
    if (size === 0) throw refused('empty-file', `“${fileName}” is empty. Nothing was uploaded; check the file where it was made.`);
    if (size > platform.config.maxUploadBytes)
      throw new ProblemError(413, 'too-large', 'File too large', `“${fileName}” is larger than this installation accepts (${Math.floor(platform.config.maxUploadBytes / 2 ** 20)} MB).`);
    // What the client claims about itself is replaced by what we know.
    request.headers['upload-metadata'] = encodeMetadata({ projectId, userId: member.id, fileName });
    return;
  }
  const id = /\/([a-f0-9]{32})$/.exec(request.originalUrl.split('?')[0]!)?.[1];
  const actor = await authorise(platform.pool, request, 'signed in');
  const [upload] = id && actor ? await platform.db.select().from(uploads).where(and(eq(uploads.id, id), eq(uploads.userId, actor.id))) : [];
  if (!upload) throw notFound('upload');
  request.params.projectId = upload.projectId;
  const member = (await authorise(platform.pool, request, 'member')) as Member;
  if (!allows(member.standing, { kind: 'register', action: 'add' })) throw notAllowed('You may no longer deliver files to this project.');
}

function parseMetadata(header: string | string[] | undefined): Record<string, string> {
  const pairs = String(header ?? '').split(',').map((pair) => pair.trim().split(' '));
  return Object.fromEntries(pairs.map(([key = '', value = '']) => [key, Buffer.from(value, 'base64').toString('utf8')]));
}

const encodeMetadata = (metadata: Record<string, string>): string =>
  Object.entries(metadata).map(([key, value]) => `${key} ${Buffer.from(value).toString('base64')}`).join(',');
