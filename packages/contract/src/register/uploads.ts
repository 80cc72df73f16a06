/** What has been uploaded and waits to be delivered, or did not arrive in full. The upload itself speaks tus. */
import { Type, type Static } from '@sinclair/typebox';
import { Moment, Nullable, operation, Page, PageQuery } from '../platform/operation.ts';

/** As the protocol of uploads names files. */
export const UploadId = Type.String({ pattern: '^[0-9a-f]{32}$' });
/** What a file is sent for, as `purpose` among what an upload says of itself (tus metadata). */
export const UPLOAD_PURPOSES = ['delivery', 'markup', 'issue', 'bcf'] as const;
export type UploadPurpose = (typeof UPLOAD_PURPOSES)[number];

export const WaitingUpload = Type.Object({
  id: Type.String(),
  fileName: Type.String(),
  size: Type.Integer(),
  /** All of it is there. */
  arrived: Type.Boolean(),
  createdAt: Moment(),
});
export type WaitingUpload = Static<typeof WaitingUpload>;

export const listUploads = operation('listUploads', {
  method: 'get',
  path: '/projects/:projectId/uploads',
  summary: 'What you uploaded to a project and neither delivered nor discarded, the oldest first',
  access: { kind: 'register', action: 'add' },
  query: Type.Object(PageQuery, { additionalProperties: false }),
  response: Page(WaitingUpload),
});

export const showRoom = operation('showRoom', {
  method: 'get',
  path: '/projects/:projectId/room',
  summary: 'How much the project holds, and how much it may (bytes)',
  access: { kind: 'register', action: 'add' },
  response: Type.Object({ held: Type.Integer(), most: Nullable(Type.Integer()) }),
});

export const discardUpload = operation('discardUpload', {
  method: 'delete',
  path: '/projects/:projectId/uploads/:uploadId',
  summary: 'Discard something of yours that was uploaded and not delivered',
  access: { kind: 'register', action: 'add' },
  params: Type.Object({
    projectId: Type.String({ format: 'uuid' }),
    uploadId: UploadId,
  }),
});
