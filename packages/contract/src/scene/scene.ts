import { Type, type Static } from '@sinclair/typebox';
import { Person } from '../identity/identity.ts';
import { MARK_KINDS, MEASURE_KINDS } from '@kindred/core/scene/measure';
import { Id, Line, Moment, Nullable, OneOf, operation, Page, PageQuery } from '../platform/operation.ts';

const Metres = Type.Number({ minimum: -1e8, maximum: 1e8 });
const Vector = Type.Tuple([Metres, Metres, Metres]);
/** As many as the largest models have elements. */
const GlobalIds = Type.Array(Type.String({ maxLength: 64 }), { maxItems: 500_000 });
const strict = { additionalProperties: false } as const;

export const SceneCamera = Type.Object(
  {
    position: Vector,
    target: Vector,
    /** Upright, degrees. */
    fieldOfView: Type.Number({ minimum: 1, maximum: 170 }),
    /** Set where nothing grows smaller with its distance: metres from the lower to the upper edge of the picture. */
    height: Type.Optional(Type.Number({ exclusiveMinimum: 0, maximum: 1e7 })),
  },
  strict,
);
export type SceneCamera = Static<typeof SceneCamera>;

const Places = Type.Array(Vector, { minItems: 1, maxItems: 2000 });
export const SceneMeasure = Type.Object({ kind: OneOf(MEASURE_KINDS), points: Places, value: Type.Number() }, strict);
export type SceneMeasure = Static<typeof SceneMeasure>;
export const SceneMark = Type.Object(
  { kind: OneOf(MARK_KINDS), points: Places, text: Type.String({ maxLength: 500 }) },
  strict,
);
export type SceneMark = Static<typeof SceneMark>;

/** A property of elements; of what stands in the element table the set is empty. */
export const ElementProperty = Type.Object(
  { set: Type.String({ maxLength: 300 }), name: Type.String({ maxLength: 300 }) },
  strict,
);

/** What one sees of the models, as in a BCF viewpoint: metres, Z up. */
export const ViewpointState = Type.Object(
  {
    camera: SceneCamera,
    /** Direction points towards the part that is cut away. */
    sections: Type.Array(Type.Object({ location: Vector, direction: Vector }, strict), { maxItems: 6 }),
    /** What lies outside is cut away: the lower corner, the upper one. */
    box: Type.Optional(Nullable(Type.Tuple([Vector, Vector]))),
    hidden: GlobalIds,
    isolated: Nullable(GlobalIds),
    /** What is not isolated is a trace of itself, not hidden. */
    restAsGhosts: Type.Optional(Type.Boolean()),
    ghosts: Type.Optional(GlobalIds),
    selection: GlobalIds,
    /** Elements have colours by the values of this property. */
    colouredBy: Type.Optional(Nullable(ElementProperty)),
    measures: Type.Optional(Type.Array(SceneMeasure, { maxItems: 200 })),
    marks: Type.Optional(Type.Array(SceneMark, { maxItems: 200 })),
  },
  strict,
);
export type ViewpointState = Static<typeof ViewpointState>;

const VIEWPOINT = {
  id: Id(),
  name: Type.String(),
  /** Empty for what lies in none. */
  folder: Type.String(),
  versionIds: Type.Array(Id()),
  author: Person,
  createdAt: Moment(),
};
/** As it stands in a list: where one looks from, without all that is hidden. */
export const ViewpointSummary = Type.Object({ ...VIEWPOINT, camera: SceneCamera });
export type ViewpointSummary = Static<typeof ViewpointSummary>;
export const Viewpoint = Type.Object({ ...VIEWPOINT, state: ViewpointState });
export type Viewpoint = Static<typeof Viewpoint>;

export const ViewpointToAdd = Type.Object(
  {
    name: Line(120),
    state: ViewpointState,
    versionIds: Type.Array(Id(), { minItems: 1, maxItems: 50 }),
    folder: Type.Optional(Line(120)),
    picture: Type.String({ maxLength: 8_000_000, pattern: '^data:image/png;base64,[A-Za-z0-9+/=]+$' }),
  },
  { additionalProperties: false },
);
export type ViewpointToAdd = Static<typeof ViewpointToAdd>;

export const listViewpoints = operation('listViewpoints', {
  method: 'get',
  path: '/projects/:projectId/viewpoints',
  summary: 'Saved viewpoints, newest first; those of a folder in their order',
  access: { kind: 'scene', action: 'see' },
  query: Type.Object({ ...PageQuery, folder: Type.Optional(Line(120)) }, { additionalProperties: false }),
  response: Page(ViewpointSummary),
});
export const addViewpoint = operation('addViewpoint', {
  largestBody: 24_000_000,
  costly: true,
  method: 'post',
  path: '/projects/:projectId/viewpoints',
  summary: 'Save a viewpoint with its picture (PNG as a data URL)',
  access: { kind: 'scene', action: 'add' },
  body: ViewpointToAdd,
  response: Viewpoint,
});
export const listViewpointFolders = operation('listViewpointFolders', {
  method: 'get',
  path: '/projects/:projectId/viewpoint-folders',
  summary: 'Folders of viewpoints by name, with how many of them you see',
  access: { kind: 'scene', action: 'see' },
  response: Type.Array(Type.Object({ name: Type.String(), viewpoints: Type.Integer() })),
});
export const arrangeViewpoints = operation('arrangeViewpoints', {
  method: 'post',
  path: '/projects/:projectId/viewpoints/arrange',
  summary: 'Put viewpoints into a folder, in the order named: before another of its viewpoints, or at its end',
  access: { kind: 'scene', action: 'add' },
  body: Type.Object(
    {
      viewpointIds: Type.Array(Id(), { minItems: 1, maxItems: 200, uniqueItems: true }),
      /** Empty: into none. A folder is there as long as something lies in it. */
      folder: Type.Union([Line(120), Type.Literal('')]),
      before: Type.Optional(Nullable(Id())),
    },
    { additionalProperties: false },
  ),
});
export const renameViewpoint = operation('renameViewpoint', {
  method: 'patch',
  path: '/projects/:projectId/viewpoints/:viewpointId',
  summary: 'Give a viewpoint another name',
  access: { kind: 'scene', action: 'add' },
  body: Type.Object({ name: Line(120) }, { additionalProperties: false }),
  response: Viewpoint,
});
export const removeViewpoint = operation('removeViewpoint', {
  method: 'delete',
  path: '/projects/:projectId/viewpoints/:viewpointId',
  summary: 'Remove a viewpoint of your own, or any as an administrator; one that an issue leads to stays',
  access: { kind: 'scene', action: 'add' },
});
export const showViewpoint = operation('showViewpoint', {
  method: 'get',
  path: '/projects/:projectId/viewpoints/:viewpointId',
  summary: 'A viewpoint',
  access: { kind: 'scene', action: 'see' },
  response: Viewpoint,
});
export const downloadViewpointPicture = operation('downloadViewpointPicture', {
  method: 'get',
  path: '/projects/:projectId/viewpoints/:viewpointId/picture',
  summary: 'The picture of a viewpoint (PNG)',
  access: { kind: 'scene', action: 'see' },
  binary: true,
});

const PropertyValue = Type.Union([Type.String(), Type.Number(), Type.Boolean(), Type.Null()]);
export const showElementProperties = operation('showElementProperties', {
  method: 'get',
  path: '/projects/:projectId/versions/:versionId/elements/:row/properties',
  summary: 'Property sets, quantities, materials and classification of the element in a row of the element table',
  access: { kind: 'scene', action: 'see' },
  params: Type.Object({ row: Type.Integer({ minimum: 0 }) }),
  response: Type.Array(
    Type.Object({
      name: Type.String(),
      kind: Type.String(),
      from: Type.String(),
      properties: Type.Array(
        Type.Object({
          name: Type.String(),
          value: PropertyValue,
          unit: Type.Optional(Type.String()),
          /** Of the type: the element has a value of its own. */
          overridden: Type.Optional(Type.Boolean()),
        }),
      ),
    }),
  ),
});
