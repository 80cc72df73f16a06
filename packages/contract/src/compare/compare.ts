/** What changed between two versions of a drawing or a model: kept for each pair of versions. */
import { CHANGE_KINDS } from '@kindred/core/compare/change-counts';
import { Type, type Static } from '@sinclair/typebox';
import { Person } from '../identity/identity.ts';
import { LongJob } from '../platform/jobs.ts';
import { Edition, Id, Moment, Nullable, OneOf, operation, Page, PageQuery } from '../platform/operation.ts';
import { Point } from '../scene/point.ts';

export const COMPARISON_STATUSES = ['waiting', 'comparing', 'ready', 'cancelled', 'failed'] as const;
/** A pair of sheets: waiting to be compared; there in one version only; compared; of nothing in common; not to be compared. */
export const SHEET_OUTCOMES = ['waiting', 'added', 'removed', 'compared', 'unlike', 'failed'] as const;
export type SheetOutcome = (typeof SHEET_OUTCOMES)[number];

const Counts = Type.Object({
  added: Type.Integer(),
  removed: Type.Integer(),
  moved: Type.Integer(),
  text: Type.Integer(),
  look: Type.Integer(),
});
const BriefCounts = Type.Object({
  /** Requests with a change, and without one. */
  found: Type.Integer(),
  missing: Type.Integer(),
  /** Changes that nobody asked for, and changes of which nobody has said yet. */
  notAsked: Type.Integer(),
  toTick: Type.Integer(),
});
const ComparedVersion = Type.Object({
  id: Id(),
  containerId: Id(),
  code: Type.String(),
  number: Type.Integer(),
  revision: Type.String(),
});

export const Comparison = Type.Object({
  id: Id(),
  kind: OneOf(['drawing', 'model'] as const),
  before: ComparedVersion,
  after: ComparedVersion,
  title: Type.String(),
  status: OneOf(COMPARISON_STATUSES),
  /** Pairs of sheets, and how many of them are done; a model counts as one. */
  sheets: Type.Integer(),
  done: Type.Integer(),
  /** Changes on all sheets that whoever asks gets. */
  counts: Counts,
  addedSheets: Type.Integer(),
  removedSheets: Type.Integer(),
  /** Null where nothing was asked of the version before. */
  brief: Nullable(BriefCounts),
  askedAt: Moment(),
});
export type Comparison = Static<typeof Comparison>;

export const ComparedSheet = Type.Object({
  position: Type.Integer(),
  /** Pages of the two versions; null where there is none, or whoever asks does not get it. */
  beforePage: Nullable(Type.Integer()),
  afterPage: Nullable(Type.Integer()),
  number: Type.String(),
  /** The number it had before, where that was another one. */
  formerNumber: Type.String(),
  title: Type.String(),
  outcome: OneOf(SHEET_OUTCOMES),
  /** The sheet before became several: what of it stands on the others is not told as removed. */
  split: Type.Boolean(),
  note: Type.String(),
  counts: Counts,
  brief: Nullable(BriefCounts),
});
export type ComparedSheet = Static<typeof ComparedSheet>;
const ComparisonView = Type.Object({ comparison: Comparison, sheets: Type.Array(ComparedSheet) });
export type ComparisonView = Static<typeof ComparisonView>;

const Vector = Type.Tuple([Type.Number(), Type.Number()]);
const Box = Type.Tuple([Type.Number(), Type.Number(), Type.Number(), Type.Number()]);
const Look = Type.Object({
  kind: OneOf(['line', 'area'] as const),
  /** `#rrggbb` or `pattern`. */
  colour: Type.String(),
  /** Of lines, points. */
  width: Type.Number(),
  dashed: Type.Boolean(),
});
/** As core/compare has it: points, as displayed, to the right and down. */
export const Change = Type.Object({
  number: Type.Integer(),
  kind: OneOf(CHANGE_KINDS),
  /** x0, y0, x1, y1 on the sheet after; of what was removed on the sheet before. */
  box: Box,
  /** Left, top, width, height on the sheet after. */
  place: Box,
  /** By the grid that the sheet has of its own. */
  grid: Type.Optional(Type.String()),
  shift: Type.Optional(Vector),
  /** Radians with the clock. */
  turn: Type.Optional(Type.Number()),
  mirrored: Type.Optional(Type.Boolean()),
  before: Type.Optional(Type.String()),
  after: Type.Optional(Type.String()),
  /** How it was drawn and is drawn now; none: there was nothing of its kind, or is nothing now. */
  look: Type.Optional(Type.Object({ before: Type.Optional(Look), after: Type.Optional(Look) })),
  /** It is a picture. */
  picture: Type.Optional(Type.Boolean()),
  /** What of a table came or went. */
  part: Type.Optional(OneOf(['row', 'column'] as const)),
  /** x0, y0, x1, y1 by piece of line. */
  ends: Type.Optional(Type.Array(Type.Number())),
});
export const SheetChanges = Type.Object({
  /** From the sheet before to the one after: x' = a x - b y + e, y' = b x + a y + f. */
  similarity: Type.Tuple([Type.Number(), Type.Number(), Type.Number(), Type.Number()]),
  /** There are pictures on them that were not compared. */
  pictures: Type.Boolean(),
  /** Words are drawn as outlines on one of them only, or in another font: they were not compared. */
  unread: Type.Boolean(),
  changes: Type.Array(Change),
  /** What says something new with every issue. */
  routine: Type.Array(Type.Object({ before: Type.String(), after: Type.String() })),
});
export type SheetChanges = Static<typeof SheetChanges>;

const see = { kind: 'register', action: 'see' } as const;
const ask = { kind: 'markup', action: 'add' } as const;
const Position = { position: Type.String({ pattern: '^[1-9][0-9]{0,5}$' }) };

export const listComparisons = operation('listComparisons', {
  method: 'get',
  path: '/projects/:projectId/comparisons',
  summary: 'Comparisons of drawings and models that you see both versions of, newest first',
  access: see,
  query: Type.Object(
    { ...PageQuery, containerId: Type.Optional(Id()), beforeId: Type.Optional(Id()), afterId: Type.Optional(Id()) },
    { additionalProperties: false },
  ),
  response: Page(Comparison),
});
export const askComparison = operation('askComparison', {
  method: 'post',
  path: '/projects/:projectId/comparisons',
  summary: 'The comparison of two versions; what was compared once is kept, else it is begun',
  access: see,
  costly: true,
  body: Type.Object({ beforeId: Id(), afterId: Id() }, { additionalProperties: false }),
  response: ComparisonView,
});
export const showComparison = operation('showComparison', {
  method: 'get',
  path: '/projects/:projectId/comparisons/:comparisonId',
  summary: 'A comparison with its sheets',
  access: see,
  response: ComparisonView,
});
export const cancelComparison = operation('cancelComparison', {
  method: 'post',
  path: '/projects/:projectId/comparisons/:comparisonId/cancel',
  summary: 'Stop a comparison; what is done of it stays, and asking again goes on',
  access: see,
  response: ComparisonView,
});
export const listSheetChanges = operation('listSheetChanges', {
  method: 'get',
  path: '/projects/:projectId/comparisons/:comparisonId/sheets/:position',
  summary: 'What changed on a sheet',
  access: see,
  params: Type.Object(Position),
  response: SheetChanges,
});
const Pair = Type.Unsafe<readonly [number, number]>(Type.Tuple([Type.Number(), Type.Number()]));
const SaidValue = Nullable(
  Type.Object({
    value: Type.Union([Type.String(), Type.Number(), Type.Boolean(), Type.Null()]),
    unit: Type.Optional(Type.String()),
  }),
);
/** As core/compare has it: an element that is new, gone or not as it was. */
export const ModelChange = Type.Object({
  number: Type.Integer(),
  /** `look`: another shape; `text`: only what is said of it. */
  kind: OneOf(CHANGE_KINDS),
  /** Rows of the element tables. */
  before: Nullable(Type.Integer()),
  after: Nullable(Type.Integer()),
  globalId: Type.String(),
  /** Null where it kept its GlobalId. */
  formerId: Nullable(Type.String()),
  class: Type.String(),
  name: Type.String(),
  storey: Type.String(),
  /** Metres. */
  moved: Nullable(Point),
  turned: Nullable(Type.Object({ axis: Point, degrees: Type.Number() })),
  /** Cubic metres, square metres, metres: before and after. Null where it is the same solid. */
  geometry: Nullable(
    Type.Object({ volume: Type.Optional(Pair), area: Type.Optional(Pair), length: Type.Optional(Pair) }),
  ),
  properties: Type.Array(Type.Object({ set: Type.String(), name: Type.String(), before: SaidValue, after: SaidValue })),
});
export type ModelChange = Static<typeof ModelChange>;

export const listModelChanges = operation('listModelChanges', {
  method: 'get',
  path: '/projects/:projectId/comparisons/:comparisonId/elements',
  summary: 'What changed in a model, element by element',
  access: see,
  query: Type.Object(
    { after: PageQuery.after, limit: Type.Optional(Type.Integer({ minimum: 1, maximum: 2000 })) },
    { additionalProperties: false },
  ),
  response: Page(ModelChange),
});
export const ElementMoment = Type.Object({
  versionId: Id(),
  number: Type.Integer(),
  revision: Type.String(),
  deliveredAt: Moment(),
  deliveredBy: Person,
  /** The version before it that you see; null for the first. */
  before: Nullable(Type.Integer()),
  /** Whether the two are compared: only then it is known what changed. */
  compared: Type.Boolean(),
  /** Null where the element did not change. */
  change: Nullable(ModelChange),
});
export type ElementMoment = Static<typeof ElementMoment>;
export const listElementHistory = operation('listElementHistory', {
  method: 'get',
  path: '/projects/:projectId/versions/:versionId/element-history',
  summary: 'Who changed an element, when and how: all versions that you see, newest first',
  access: see,
  query: Type.Object({ globalId: Type.String({ minLength: 1, maxLength: 64 }) }, { additionalProperties: false }),
  response: Type.Array(ElementMoment),
});

export const startComparisonExport = operation('startComparisonExport', {
  method: 'post',
  path: '/projects/:projectId/comparisons/:comparisonId/exports',
  summary:
    'A report of a comparison: of a drawing the overlay with numbered changes, table and brief as PDF; or the tables as XLSX',
  access: see,
  costly: true,
  body: Type.Object({ as: OneOf(['pdf', 'xlsx'] as const) }, { additionalProperties: false }),
  response: LongJob,
});

const RequestContent = {
  text: Type.String({ minLength: 1, maxLength: 1000, pattern: '^(?=[\\s\\S]*\\S)[^\\u0000]*$' }),
  page: Type.Optional(Nullable(Type.Integer({ minimum: 1 }))),
  /** Left, top, width, height on the page. */
  place: Type.Optional(Nullable(Box)),
};
/** Something that was asked of a version of a drawing. */
export const ChangeRequest = Type.Object({
  id: Id(),
  versionId: Id(),
  text: Type.String(),
  page: Nullable(Type.Integer()),
  place: Nullable(Box),
  markupId: Nullable(Id()),
  issueId: Nullable(Id()),
  by: Person,
  at: Moment(),
  edition: Edition(),
});
export type ChangeRequest = Static<typeof ChangeRequest>;

const ChangeName = { position: Type.Integer({ minimum: 1 }), number: Type.Integer({ minimum: 1 }) };
export const Brief = Type.Object({
  requests: Type.Array(
    Type.Object({
      ...ChangeRequest.properties,
      /** What answers it; none: it is missing. */
      changes: Type.Array(Type.Object(ChangeName)),
      ticked: Type.Boolean(),
    }),
  ),
  /** Of every change whether it was asked for: as somebody ticked, else as it looks. */
  changes: Type.Array(
    Type.Object({
      ...ChangeName,
      asked: Type.Boolean(),
      requestIds: Type.Array(Id()),
      ticked: Type.Boolean(),
      by: Nullable(Person),
    }),
  ),
  /** Issues that were raised from changes, of those that you see. */
  raised: Type.Array(Type.Object({ ...ChangeName, issueId: Id() })),
  counts: BriefCounts,
  /** Open markups and issues on the version before that are not in it yet. */
  toCollect: Type.Object({ markups: Type.Integer(), issues: Type.Integer() }),
});
export type Brief = Static<typeof Brief>;

export const showBrief = operation('showBrief', {
  method: 'get',
  path: '/projects/:projectId/comparisons/:comparisonId/brief',
  summary: 'What was asked of the version before, held against what changed',
  access: see,
  response: Brief,
});
export const addRequests = operation('addRequests', {
  method: 'post',
  path: '/projects/:projectId/versions/:versionId/requests',
  summary: 'Ask for changes of a version of a drawing',
  access: ask,
  body: Type.Object(
    {
      requests: Type.Array(Type.Object(RequestContent, { additionalProperties: false }), {
        minItems: 1,
        maxItems: 200,
      }),
    },
    { additionalProperties: false },
  ),
  response: Type.Array(ChangeRequest),
});
export const collectRequests = operation('collectRequests', {
  method: 'post',
  path: '/projects/:projectId/versions/:versionId/requests/collect',
  summary: 'Take over what open markups and issues on a version ask for',
  access: ask,
  response: Type.Array(ChangeRequest),
});
export const changeRequest = operation('changeRequest', {
  method: 'patch',
  path: '/projects/:projectId/requests/:requestId',
  summary: 'Change what was asked for, or where',
  access: ask,
  body: Type.Object(
    { edition: Edition(), ...RequestContent, text: Type.Optional(RequestContent.text) },
    { additionalProperties: false },
  ),
  response: ChangeRequest,
});
export const removeRequest = operation('removeRequest', {
  method: 'delete',
  path: '/projects/:projectId/requests/:requestId',
  summary: 'Take a request back',
  access: ask,
});
export const judgeChange = operation('judgeChange', {
  method: 'put',
  path: '/projects/:projectId/comparisons/:comparisonId/judgements',
  summary:
    'Say of a change whether it was asked for, by which requests, and which issue it led to; null takes that back',
  access: ask,
  body: Type.Object(
    {
      ...ChangeName,
      asked: Nullable(Type.Boolean()),
      requestIds: Type.Optional(Type.Array(Id(), { maxItems: 50 })),
      issueId: Type.Optional(Nullable(Id())),
    },
    { additionalProperties: false },
  ),
  response: Brief,
});
