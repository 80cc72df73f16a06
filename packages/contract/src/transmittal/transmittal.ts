import { Type, type Static } from '@sinclair/typebox';
import { Person } from '../identity/identity.ts';
import { Id, Line, Moment, Nullable, OneOf, operation, Page, PageQuery, Prose } from '../platform/operation.ts';

export const TRANSMITTAL_REASONS = [
  'for information',
  'for coordination',
  'for review',
  'for approval',
  'for construction',
] as const;

export const TransmittalFile = Type.Object({
  versionId: Id(),
  containerId: Id(),
  code: Type.String(),
  title: Type.String(),
  revision: Type.String(),
  status: Type.String(),
  versionNumber: Type.Integer(),
  fileName: Type.String(),
  size: Type.Integer(),
  sha256: Type.String(),
  /** A newer version has been delivered since. */
  superseded: Type.Boolean(),
});
export const Receipt = Type.Object({
  person: Person,
  party: Nullable(Type.String()),
  receivedAt: Moment(),
  openedAt: Nullable(Moment()),
  downloadedAt: Nullable(Moment()),
  acknowledgedAt: Nullable(Moment()),
});
export type Receipt = Static<typeof Receipt>;

export const Transmittal = Type.Object({
  id: Id(),
  number: Type.Integer(),
  title: Type.String(),
  reason: OneOf(TRANSMITTAL_REASONS),
  message: Type.String(),
  sender: Person,
  sentAt: Moment(),
  recipientsSeeEachOther: Type.Boolean(),
  files: Type.Array(TransmittalFile),
  receipts: Type.Array(Receipt),
});
export type Transmittal = Static<typeof Transmittal>;

export const listTransmittals = operation('listTransmittals', {
  method: 'get',
  path: '/projects/:projectId/transmittals',
  summary: 'Transmittals that you sent, received, or may see, newest first',
  access: { kind: 'transmittal', action: 'see' },
  query: Type.Object(PageQuery, { additionalProperties: false }),
  response: Page(Transmittal),
});
export const sendTransmittal = operation('sendTransmittal', {
  costly: true,
  method: 'post',
  path: '/projects/:projectId/transmittals',
  summary: 'Send files, frozen to their versions, to people and companies',
  access: { kind: 'transmittal', action: 'add' },
  body: Type.Object(
    {
      title: Line(200),
      reason: OneOf(TRANSMITTAL_REASONS),
      message: Type.Optional(Prose(5000)),
      versionIds: Type.Array(Id(), { minItems: 1, maxItems: 1000 }),
      personIds: Type.Array(Id(), { maxItems: 500 }),
      partyIds: Type.Array(Id(), { maxItems: 100 }),
      recipientsSeeEachOther: Type.Boolean(),
    },
    { additionalProperties: false },
  ),
  response: Transmittal,
});
export const showTransmittal = operation('showTransmittal', {
  method: 'get',
  path: '/projects/:projectId/transmittals/:transmittalId',
  summary: 'A transmittal; when a recipient opens it, that is recorded',
  access: { kind: 'transmittal', action: 'see' },
  response: Transmittal,
});
export const acknowledgeTransmittal = operation('acknowledgeTransmittal', {
  method: 'post',
  path: '/projects/:projectId/transmittals/:transmittalId/acknowledge',
  summary: 'Acknowledge receipt',
  access: { kind: 'transmittal', action: 'see' },
  response: Transmittal,
});
export const downloadTransmittal = operation('downloadTransmittal', {
  costly: true,
  method: 'get',
  path: '/projects/:projectId/transmittals/:transmittalId/zip',
  summary: 'All files as a zip with an index and checksums; a download by a recipient is recorded',
  access: { kind: 'transmittal', action: 'see' },
  binary: true,
});
