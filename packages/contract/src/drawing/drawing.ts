import { Type, type Static } from '@sinclair/typebox';
import { RECOGNITIONS } from '@kindred/core/drawing/recognition';
import { Id, Moment, Nullable, OneOf, operation, OptionalLine, Page, PageQuery } from '../platform/operation.ts';

/** What a title block says of its sheet. */
const TitleBlock = {
  number: OptionalLine(80),
  title: OptionalLine(200),
  revision: OptionalLine(20),
  status: OptionalLine(20),
  scale: OptionalLine(40),
  date: OptionalLine(40),
};

/** Width and height in points, as displayed. */
export const Sheet = Type.Object({
  id: Id(),
  page: Type.Integer(),
  label: Type.String(),
  ...TitleBlock,
  /** Somebody looked at what was read from the title block, or it says the same as before. */
  confirmed: Type.Boolean(),
  /** Whether its words were recognised from a picture of it: such are looked at before they count. */
  recognition: OneOf(RECOGNITIONS),
  /** What a recogniser takes the title block for. */
  proposed: Nullable(Type.Object(TitleBlock)),
  width: Type.Number(),
  height: Type.Number(),
});
export type Sheet = Static<typeof Sheet>;

export const listSheets = operation('listSheets', {
  method: 'get',
  path: '/projects/:projectId/versions/:versionId/sheets',
  summary: 'The sheets of a version of a drawing',
  access: { kind: 'register', action: 'see' },
  response: Type.Array(Sheet),
});

const PageParams = Type.Object({ page: Type.String({ pattern: '^[1-9][0-9]{0,5}$' }) });
export const showVectors = operation('showVectors', {
  method: 'get',
  path: '/projects/:projectId/versions/:versionId/sheets/:page/vectors',
  summary: 'Lines, areas and words of a sheet, as `core/drawing/vectors/vectors-file` packs a page',
  access: { kind: 'register', action: 'see' },
  params: PageParams,
  binary: true,
});

export const listRecognisedWords = operation('listRecognisedWords', {
  method: 'get',
  path: '/projects/:projectId/versions/:versionId/sheets/:page/recognised-words',
  summary: 'Words that were recognised from the picture of a sheet, where they stand; none where the file has its own',
  access: { kind: 'register', action: 'see' },
  params: PageParams,
  response: Type.Array(
    Type.Object({
      text: Type.String(),
      ...{ x: Type.Number(), y: Type.Number(), width: Type.Number(), size: Type.Number(), angle: Type.Number() },
    }),
  ),
});

/** A sheet that has the words one looks for. */
export const FoundSheet = Type.Object({
  id: Id(),
  containerId: Id(),
  versionId: Id(),
  code: Type.String(),
  page: Type.Integer(),
  label: Type.String(),
  /** The words with some of what stands around them. */
  around: Type.String(),
});
export type FoundSheet = Static<typeof FoundSheet>;
export const findWords = operation('findWords', {
  method: 'get',
  path: '/projects/:projectId/sheet-words',
  summary: 'Sheets of the newest versions that have these words, each at least in its beginning',
  access: { kind: 'register', action: 'see' },
  query: Type.Object(
    { ...PageQuery, q: Type.String({ minLength: 1, maxLength: 100 }), containerId: Type.Optional(Id()) },
    { additionalProperties: false },
  ),
  response: Page(FoundSheet),
});

export const confirmSheets = operation('confirmSheets', {
  largestBody: 1_000_000,
  method: 'put',
  path: '/projects/:projectId/versions/:versionId/sheets',
  summary: 'Correct what was read from the title blocks, and let it count',
  access: { kind: 'register', action: 'change' },
  body: Type.Object(
    {
      sheets: Type.Array(
        Type.Object({ page: Type.Integer({ minimum: 1 }), ...TitleBlock }, { additionalProperties: false }),
        { minItems: 1, maxItems: 2000 },
      ),
    },
    { additionalProperties: false },
  ),
  response: Type.Array(Sheet),
});

/** A title block that somebody corrected. */
export const TaughtTitleBlock = Type.Object({
  id: Id(),
  /** The sheet from which it was taught. */
  sheet: Type.String(),
  /** What is read by it. */
  fields: Type.Array(Type.String()),
  /** Some of the words by which it is known again. */
  words: Type.Array(Type.String()),
  taughtBy: Type.String(),
  taughtAt: Moment(),
});
export type TaughtTitleBlock = Static<typeof TaughtTitleBlock>;
export const listTaughtTitleBlocks = operation('listTaughtTitleBlocks', {
  method: 'get',
  path: '/projects/:projectId/title-blocks',
  summary: 'Title blocks that were corrected once and are read so from then on, newest first',
  access: { kind: 'register', action: 'see' },
  response: Type.Array(TaughtTitleBlock),
});
export const forgetTitleBlock = operation('forgetTitleBlock', {
  method: 'delete',
  path: '/projects/:projectId/title-blocks/:layoutId',
  summary: 'Forget a title block; what was read by it stays',
  access: { kind: 'register', action: 'change' },
});

/** A sheet of the newest version of a drawing. */
export const RegisteredSheet = Type.Object({
  id: Id(),
  containerId: Id(),
  versionId: Id(),
  code: Type.String(),
  page: Type.Integer(),
  ...TitleBlock,
  confirmed: Type.Boolean(),
  recognition: OneOf(RECOGNITIONS),
});
export type RegisteredSheet = Static<typeof RegisteredSheet>;
export const listSheetRegister = operation('listSheetRegister', {
  method: 'get',
  path: '/projects/:projectId/sheets',
  summary: 'All sheets of the project, by their numbers',
  access: { kind: 'register', action: 'see' },
  query: Type.Object(
    {
      ...PageQuery,
      q: Type.Optional(Type.String({ maxLength: 100 })),
      unconfirmed: Type.Optional(Type.Boolean()),
    },
    { additionalProperties: false },
  ),
  response: Page(RegisteredSheet),
});
