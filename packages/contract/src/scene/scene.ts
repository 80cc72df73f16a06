import { Type, type Static } from '@sinclair/typebox';
import { Person } from '../identity/identity.ts';
import { Id, Line, Moment, Nullable, operation, Page, PageQuery } from '../platform/operation.ts';

const Metres = Type.Number({ minimum: -1e8, maximum: 1e8 });
const Vector = Type.Tuple([Metres, Metres, Metres]);
const GlobalIds = Type.Array(Type.String({ maxLength: 64 }), { maxItems: 20_000 });

/** Camera, sections, visibility and selection, as in a BCF viewpoint: metres, Z up. */
export const ViewpointState = Type.Object(
  {
    camera: Type.Object(
      { position: Vector, target: Vector, fieldOfView: Type.Number({ minimum: 1, maximum: 170 }) },
      { additionalProperties: false },
    ),
    /** Direction points towards the part that is cut away. */
    sections: Type.Array(Type.Object({ location: Vector, direction: Vector }, { additionalProperties: false }), {
      maxItems: 6,
    }),
    hidden: GlobalIds,
    isolated: Nullable(GlobalIds),
    selection: GlobalIds,
  },
  { additionalProperties: false },
);
export type ViewpointState = Static<typeof ViewpointState>;

export const Viewpoint = Type.Object({
  id: Id(),
  name: Type.String(),
  state: ViewpointState,
  versionIds: Type.Array(Id()),
  author: Person,
  createdAt: Moment(),
});
export type Viewpoint = Static<typeof Viewpoint>;

export const listViewpoints = operation('listViewpoints', {
  method: 'get',
  path: '/projects/:projectId/viewpoints',
  summary: 'Saved viewpoints, newest first',
  access: { kind: 'scene', action: 'see' },
  query: Type.Object(PageQuery, { additionalProperties: false }),
  response: Page(Viewpoint),
});
export const addViewpoint = operation('addViewpoint', {
  largestBody: 12_000_000,
  costly: true,
  method: 'post',
  path: '/projects/:projectId/viewpoints',
  summary: 'Save a viewpoint with its picture (PNG as a data URL)',
  access: { kind: 'scene', action: 'add' },
  body: Type.Object(
    {
      name: Line(120),
      state: ViewpointState,
      versionIds: Type.Array(Id(), { minItems: 1, maxItems: 50 }),
      picture: Type.String({ maxLength: 8_000_000, pattern: '^data:image/png;base64,[A-Za-z0-9+/=]+$' }),
    },
    { additionalProperties: false },
  ),
  response: Viewpoint,
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
