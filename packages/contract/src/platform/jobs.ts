import { Type, type Static } from '@sinclair/typebox';
import { Id, Moment, Nullable, OneOf, operation } from './operation.ts';

/** Long work that a person started: found again until its result is removed. */
export const LongJob = Type.Object({
  id: Id(),
  kind: Type.String(),
  name: Type.String(),
  /** The page where it was started, below the project. */
  path: Type.String(),
  status: OneOf(['waiting', 'running', 'done', 'failed', 'cancelled'] as const),
  /** From 0 to 1. */
  progress: Type.Number(),
  note: Type.String(),
  /** The file that it made. */
  fileName: Nullable(Type.String()),
  createdAt: Moment(),
  endedAt: Nullable(Moment()),
});
export type LongJob = Static<typeof LongJob>;

const ofJob = '/projects/:projectId/jobs/:jobId';
export const listLongJobs = operation('listLongJobs', {
  method: 'get',
  path: '/projects/:projectId/jobs',
  summary: 'Long work that you started, the newest first',
  access: 'member',
  response: Type.Array(LongJob),
});
export const cancelLongJob = operation('cancelLongJob', {
  method: 'post',
  path: `${ofJob}/cancel`,
  summary: 'Cancel long work of yours',
  access: 'member',
  response: LongJob,
});
export const tryLongJobAgain = operation('tryLongJobAgain', {
  method: 'post',
  path: `${ofJob}/again`,
  summary: 'Try long work of yours again that failed or was cancelled',
  access: 'member',
  response: LongJob,
});
export const downloadLongJob = operation('downloadLongJob', {
  method: 'get',
  path: `${ofJob}/file`,
  summary: 'The file that long work of yours made',
  access: 'member',
  binary: true,
});
