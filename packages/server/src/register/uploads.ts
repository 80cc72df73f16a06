import { cleanFileName } from '@kindred/core/naming/file-name';
import { UPLOAD_PURPOSES, type UploadPurpose } from '@kindred/contract/register/uploads';
import type { Right } from '@kindred/core/people/rights';
import { Server } from '@tus/server';
import { and, eq } from 'drizzle-orm';
import type { Request, RequestHandler, Response } from 'express';
import { AsyncLocalStorage } from 'node:async_hooks';
import { randomBytes } from 'node:crypto';
import type { Actor, Member } from '../platform/caller.ts';
import { notFound, ProblemError, refused } from '../platform/errors.ts';
import { asProblem, diskFull } from '../platform/http.ts';
import { tooMany } from '../platform/rate-limit.ts';
import { blobs } from '../platform/schema.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import type { Platform } from '../platform/services.ts';
import { Quota } from './quota.ts';
import { uploads } from './schema.ts';
import { UploadLocks } from './upload-locks.ts';

const PATH = '/api/uploads';
const cut = new ProblemError(
  500,
  'upload-failed',
  'The upload was interrupted',
  'What has arrived is kept. Try again to go on from there.',
);
/** Whoever may add what a file is sent for may send it. */
const RIGHTS: Record<UploadPurpose, Right> = {
  delivery: { kind: 'register', action: 'add' },
  markup: { kind: 'markup', action: 'add' },
  issue: { kind: 'issues', action: 'add' },
  bcf: { kind: 'issues', action: 'change' },
};

/**
 * Resumable uploads (tus 1.0). Rights are checked before the protocol sees a request; a finished file is hashed,
 * moved into the store, and then waits for its delivery.
 */
export function uploadHandler(platform: Platform): RequestHandler {
  const { receiving } = platform.store;
  const tus = new Server({
    path: PATH,
    relativeLocation: true,
    datastore: receiving.parts,
    locker: new UploadLocks(platform.pool),
    maxSize: platform.config.maxUploadBytes,
    allowedOrigins: [platform.config.publicUrl],
    namingFunction: () => randomBytes(16).toString('hex'),
    async onUploadFinish(_request, upload) {
      const { sha256, size } = await receiving.finish(upload.id, upload.size ?? 0);
      await platform.db.insert(blobs).values({ sha256, size, createdAt: now() }).onConflictDoNothing();
      await platform.db.update(uploads).set({ sha256 }).where(eq(uploads.id, upload.id));
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
      const problem = (await receiving.hasRoom()) ? asProblem(error) : diskFull();
      if (problem.status === 500) platform.log.error({ err: error }, 'upload failed');
      return {
        status_code: problem.status,
        body: JSON.stringify((problem.status === 500 ? cut : problem).toProblem()),
      };
    },
  });
  const quota = new Quota(platform);
  const sending = new Map<string, number>();
  return (request, response, next) => {
    void admit(platform, quota, request)
      .then(({ personId, admission }) => {
        if (personId) takePlace(sending, personId, response);
        return admissions.run(admission, () => tus.handle(request, response));
      })
      .catch(next);
  };
}

/** Each connection holds memory and a file; a browser of ours opens three. */
const MOST_AT_ONCE = 12;
function takePlace(sending: Map<string, number>, personId: string, response: Response): void {
  const taken = sending.get(personId) ?? 0;
  if (taken >= MOST_AT_ONCE) throw tooMany(5);
  sending.set(personId, taken + 1);
  response.once('close', () => {
    const left = sending.get(personId)! - 1;
    if (left) sending.set(personId, left);
    else sending.delete(personId);
  });
}

/** Who sends which file: found out before the protocol runs, used when it creates the upload. */
interface Admission {
  projectId: string;
  userId: string;
  fileName: string;
  purpose: UploadPurpose;
}
const admissions = new AsyncLocalStorage<Admission | undefined>();

interface Admitted {
  personId?: string;
  /** Of a file that is new. */
  admission?: Admission;
}

async function admit(platform: Platform, quota: Quota, request: Request): Promise<Admitted> {
  if (request.method === 'OPTIONS') return {};
  if (request.method === 'POST') {
    const metadata = parseMetadata(request.headers['upload-metadata']);
    const projectId = metadata.projectId ?? '';
    if (!/^[0-9a-f-]{36}$/.test(projectId)) throw notFound('project');
    request.params.projectId = projectId;
    const purpose = UPLOAD_PURPOSES.find((one) => one === metadata.purpose) ?? 'delivery';
    const member = (await platform.gate.admit(request, { access: RIGHTS[purpose] })) as Member;
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
    await quota.admit(projectId, fileName, size);
    return { personId: member.id, admission: { projectId, userId: member.id, fileName, purpose } };
  }
  const id = /\/([a-f0-9]{32})$/.exec(request.originalUrl.split('?')[0]!)?.[1];
  const actor = (await platform.gate.admit(request, { access: 'signed in' })) as Actor | undefined;
  const [upload] =
    id && actor
      ? await platform.db
          .select()
          .from(uploads)
          .where(and(eq(uploads.id, id), eq(uploads.userId, actor.id)))
      : [];
  if (!upload) throw notFound('upload');
  request.params.projectId = upload.projectId;
  await platform.gate.admit(request, { access: RIGHTS[upload.purpose] });
  return { personId: upload.userId };
}

function parseMetadata(header: string | string[] | undefined): Record<string, string> {
  const pairs = String(header ?? '')
    .split(',')
    .map((pair) => pair.trim().split(' '));
  return Object.fromEntries(
    pairs.map(([key = '', value = '']) => [key, Buffer.from(value, 'base64').toString('utf8')]),
  );
}

/** A file that somebody sent for something else than a delivery, whole; it is theirs alone. */
export async function uploadFor(
  db: Db,
  actor: Member,
  purpose: Exclude<UploadPurpose, 'delivery'>,
  uploadId: string,
): Promise<{ fileName: string; sha256: string; size: number }> {
  const [row] = await db
    .select()
    .from(uploads)
    .where(
      and(
        ...[eq(uploads.id, uploadId), eq(uploads.userId, actor.id), eq(uploads.projectId, actor.projectId)],
        eq(uploads.purpose, purpose),
      ),
    );
  if (!row?.sha256)
    throw refused(
      'upload-incomplete',
      'The file has not arrived in full, or is not kept any more. Send it again. Nothing was changed.',
    );
  return { fileName: row.fileName, sha256: row.sha256, size: row.size };
}
