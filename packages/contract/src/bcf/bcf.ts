/** Issues as BCF files: out to other programs, and back in. */
import { BCF_VERSIONS } from '@kindred/core/bcf/bcf-file';
import { BCF_FIELDS } from '@kindred/core/bcf/compare-topic';
import { Type, type Static } from '@sinclair/typebox';
import { Person } from '../identity/identity.ts';
import { IssueFilters } from '../issues/issues.ts';
import { LongJob } from '../platform/jobs.ts';
import { Id, Moment, Nullable, OneOf, operation, Page, PageQuery } from '../platform/operation.ts';
import { UploadId } from '../register/uploads.ts';

export const startBcfExport = operation('startBcfExport', {
  costly: true,
  method: 'post',
  path: '/projects/:projectId/bcf-export',
  summary: 'Write the issues that you see and that fit into a BCF file, with their viewpoints, pictures and comments',
  access: { kind: 'issues', action: 'see' },
  body: Type.Object({ version: OneOf(BCF_VERSIONS), ...IssueFilters }, { additionalProperties: false }),
  response: LongJob,
});

const change = { kind: 'issues', action: 'change' } as const;
export const startBcfImport = operation('startBcfImport', {
  costly: true,
  method: 'post',
  path: '/projects/:projectId/bcf-imports',
  summary: 'Read a BCF file that was sent with the purpose “bcf”; nothing is taken yet',
  access: change,
  body: Type.Object({ uploadId: UploadId }, { additionalProperties: false }),
  response: LongJob,
});

const Note = Type.Object({
  code: Type.String(),
  topic: Nullable(Type.String()),
  values: Type.Record(Type.String(), Type.Union([Type.String(), Type.Number()])),
});
export const FoundTopic = Type.Object({
  guid: Type.String(),
  title: Type.String(),
  found: OneOf(['new', 'changed', 'conflict', 'same'] as const),
  /** The issue that it is; null for what is new. */
  issue: Nullable(Type.Object({ id: Id(), number: Type.Integer() })),
  /** What it says otherwise; of a new one nothing. `both`: it was changed here too since it left. */
  fields: Type.Array(
    Type.Object({
      field: OneOf(BCF_FIELDS),
      mine: Type.String(),
      theirs: Type.String(),
      found: OneOf(['theirs', 'both'] as const),
    }),
  ),
  /** Of what is not here yet. */
  comments: Type.Integer(),
  viewpoints: Type.Integer(),
});
export type FoundTopic = Static<typeof FoundTopic>;
export const showBcfImport = operation('showBcfImport', {
  method: 'get',
  path: '/projects/:projectId/bcf-imports/:jobId',
  summary:
    'What a BCF file that was read says, held against the issues that are there now; what is the same is only counted',
  access: change,
  response: Type.Object({
    fileName: Type.String(),
    version: OneOf(BCF_VERSIONS),
    topics: Type.Array(FoundTopic),
    same: Type.Integer(),
    notes: Type.Array(Note),
  }),
});
export const takeBcfImport = operation('takeBcfImport', {
  costly: true,
  largestBody: 4_000_000,
  method: 'post',
  path: '/projects/:projectId/bcf-imports/:jobId',
  summary: 'Take what a BCF file says: what is new, and of what is known what was changed there; nothing twice',
  access: change,
  body: Type.Object(
    {
      /** Topics that are left out. */
      leave: Type.Optional(Type.Array(Type.String({ maxLength: 80 }), { maxItems: 50_000 })),
      /** Of what was changed on both sides: fields of which the file’s word counts, by GUID. */
      theirs: Type.Optional(Type.Record(Type.String({ maxLength: 80 }), Type.Array(OneOf(BCF_FIELDS)))),
      /** Fields that were changed there alone and stay as they are here, by GUID. */
      mine: Type.Optional(Type.Record(Type.String({ maxLength: 80 }), Type.Array(OneOf(BCF_FIELDS)))),
    },
    { additionalProperties: false },
  ),
  response: LongJob,
});

export const BcfCounts = Type.Object({
  topics: Type.Integer(),
  added: Type.Optional(Type.Integer()),
  changed: Type.Optional(Type.Integer()),
  comments: Type.Optional(Type.Integer()),
  refused: Type.Optional(Type.Integer()),
});
export type BcfCounts = Static<typeof BcfCounts>;
export const BcfTransfer = Type.Object({
  id: Id(),
  way: OneOf(['out', 'in'] as const),
  by: Person,
  at: Moment(),
  fileName: Type.String(),
  version: OneOf(BCF_VERSIONS),
  filter: Type.Record(Type.String(), Type.Unknown()),
  counts: BcfCounts,
  notes: Type.Array(Note),
});
export type BcfTransfer = Static<typeof BcfTransfer>;
export const listBcfTransfers = operation('listBcfTransfers', {
  method: 'get',
  path: '/projects/:projectId/bcf-transfers',
  summary: 'BCF files that left and came in: by whom, when, with which filter, how much of what; the newest first',
  access: { kind: 'issues', action: 'see' },
  query: Type.Object(PageQuery, { additionalProperties: false }),
  response: Page(BcfTransfer),
});
