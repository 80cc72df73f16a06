import { Type, type Static } from '@sinclair/typebox';
import { MARKUP_STATUSES } from '@kindred/core/markup/shapes';
import { LongJob } from '../platform/jobs.ts';
import { Id, Moment, Nullable, OneOf, operation } from '../platform/operation.ts';
import { UploadId } from '../register/uploads.ts';
import { Shape } from './markup.ts';

export const startMarkupImport = operation('startMarkupImport', {
  costly: true,
  method: 'post',
  path: '/projects/:projectId/versions/:versionId/markup-imports',
  summary: 'Read the markups of a PDF or an XFDF file that was sent with the purpose “markup”; nothing is taken yet',
  access: { kind: 'markup', action: 'add' },
  body: Type.Object({ uploadId: UploadId }, { additionalProperties: false }),
  response: LongJob,
});

const PARTS = ['text', 'status', 'shape'] as const;
/** What a markup says here, or in the file. */
const Side = Type.Object({ text: Type.String(), status: OneOf(MARKUP_STATUSES), shape: Shape });
export const FoundMarkup = Type.Object({
  /** Tells it apart within its file. */
  key: Type.String(),
  page: Type.Integer(),
  found: OneOf(['new', 'changed', 'answered', 'conflict', 'same'] as const),
  /** Changed in the file; what needs a right that whoever asks does not have is left out. */
  parts: Type.Array(OneOf(PARTS)),
  /** Those of them that were changed here too since it left. */
  conflicts: Type.Array(OneOf(PARTS)),
  author: Type.String(),
  theirs: Side,
  /** Null for what is new. */
  ours: Nullable(Type.Object({ id: Id(), number: Type.Integer(), ...Side.properties })),
  answers: Type.Array(Type.Object({ author: Type.String(), text: Type.String(), at: Nullable(Moment()) })),
});
export type FoundMarkup = Static<typeof FoundMarkup>;

export const showMarkupImport = operation('showMarkupImport', {
  method: 'get',
  path: '/projects/:projectId/markup-imports/:jobId',
  summary: 'What a file that was read says, held against the markups that are there now',
  access: { kind: 'markup', action: 'add' },
  response: Type.Object({
    versionId: Id(),
    fileName: Type.String(),
    found: Type.Array(FoundMarkup),
    /** Annotations that are no markups, or lie on no page of the drawing. */
    left: Type.Integer(),
    /** Published markups on the drawing that the file does not have; they stay. */
    missing: Type.Integer(),
  }),
});
export const takeMarkups = operation('takeMarkups', {
  largestBody: 1_000_000,
  method: 'post',
  path: '/projects/:projectId/markup-imports/:jobId',
  summary: 'Take what a file says: for each the file’s side, or only what was answered',
  access: { kind: 'markup', action: 'add' },
  body: Type.Object(
    {
      take: Type.Array(
        Type.Object(
          { key: Type.String({ maxLength: 300 }), side: OneOf(['theirs', 'ours'] as const) },
          { additionalProperties: false },
        ),
        { minItems: 1, maxItems: 5000 },
      ),
    },
    { additionalProperties: false },
  ),
  response: Type.Object({ added: Type.Integer(), changed: Type.Integer(), answers: Type.Integer() }),
});
