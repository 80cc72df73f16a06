/** Federations: the models of a folder and of those below it, looked at as one. */
import { POSITION_FINDINGS } from '@kindred/core/federation/positions';
import { CONTAINER_STATES, PREPARATION_STATES } from '@kindred/core/register/states';
import { Type, type Static } from '@sinclair/typebox';
import { Person } from '../identity/identity.ts';
import { Edition, Id, Line, Moment, Nullable, OneOf, operation } from '../platform/operation.ts';
import { Placing } from '../scene/placings.ts';

const strict = { additionalProperties: false } as const;
const see = { kind: 'scene', action: 'see' } as const;
const keep = { kind: 'scene', action: 'add' } as const;

export const Federation = Type.Object({
  id: Id(),
  name: Type.String(),
  /** All folders of the project. */
  whole: Type.Boolean(),
  /** Null for the whole project, and where the folder was removed or whoever asks does not see it. */
  folder: Nullable(Type.Object({ id: Id(), path: Type.String() })),
  /** As many as whoever asks sees. */
  models: Type.Integer(),
  by: Person,
  at: Moment(),
  edition: Edition(),
});
export type Federation = Static<typeof Federation>;

export const FederatedModel = Type.Object({
  containerId: Id(),
  code: Type.String(),
  title: Type.String(),
  /** Parts of the code by the field's name. */
  fields: Type.Record(Type.String(), Type.String()),
  /** The version that takes part: the newest that whoever asks sees, or the one that it is held at. */
  versionId: Id(),
  number: Type.Integer(),
  revision: Type.String(),
  state: OneOf(CONTAINER_STATES),
  preparation: OneOf(PREPARATION_STATES),
  /** Held at this version. */
  pinned: Type.Boolean(),
  /** The newest that whoever asks sees. */
  newest: Type.Object({ versionId: Id(), number: Type.Integer() }),
});
export type FederatedModel = Static<typeof FederatedModel>;
export const FederationView = Type.Object({ federation: Federation, models: Type.Array(FederatedModel) });
export type FederationView = Static<typeof FederationView>;

export const listFederations = operation('listFederations', {
  method: 'get',
  path: '/projects/:projectId/federations',
  summary: 'Federations of a project, by name',
  access: see,
  response: Type.Array(Federation),
});
export const addFederation = operation('addFederation', {
  method: 'post',
  path: '/projects/:projectId/federations',
  summary: 'Make a federation of the models in a folder and below it, or of the whole project',
  access: keep,
  /** Null: all folders of the project. */
  body: Type.Object({ name: Line(80), folderId: Nullable(Id()) }, strict),
  response: FederationView,
});
export const showFederation = operation('showFederation', {
  method: 'get',
  path: '/projects/:projectId/federations/:federationId',
  summary: 'A federation with its models that you see',
  access: see,
  response: FederationView,
});
export const changeFederation = operation('changeFederation', {
  method: 'patch',
  path: '/projects/:projectId/federations/:federationId',
  summary: 'Rename a federation, or take another folder for it',
  access: keep,
  body: Type.Object(
    { edition: Edition(), name: Type.Optional(Line(80)), folderId: Type.Optional(Nullable(Id())) },
    strict,
  ),
  response: FederationView,
});
export const removeFederation = operation('removeFederation', {
  method: 'delete',
  path: '/projects/:projectId/federations/:federationId',
  summary: 'Remove a federation; its models stay',
  access: keep,
});
export const pinModel = operation('pinModel', {
  method: 'put',
  path: '/projects/:projectId/federations/:federationId/pins/:containerId',
  summary: 'Hold a model of a federation at a version; null lets it follow the newest again',
  access: keep,
  body: Type.Object({ versionId: Nullable(Id()) }, strict),
  response: FederationView,
});

export const FederationPicture = Type.Object({
  projectId: Id(),
  federationId: Id(),
  name: Type.String(),
  /** Changes when it does. */
  picture: Type.String(),
});
export type FederationPicture = Static<typeof FederationPicture>;
export const listFederationPictures = operation('listFederationPictures', {
  method: 'get',
  path: '/federation-pictures',
  summary:
    'Federations of your projects that have a picture of which you see every model; those of the most models first',
  access: 'signed in',
  response: Type.Array(FederationPicture),
});
export const downloadFederationPicture = operation('downloadFederationPicture', {
  method: 'get',
  path: '/projects/:projectId/federations/:federationId/picture',
  summary: 'The picture of a federation (PNG): what everybody works with, of which you see every model',
  access: see,
  query: Type.Object({ of: Type.Optional(Type.String({ maxLength: 64 })) }, strict),
  binary: true,
});

const Metres = Type.Number();
/** Where a model of a federation lies. */
export const ModelPlace = Type.Object({
  containerId: Id(),
  /** Not known of models that were prepared before it was kept. */
  position: Nullable(
    Type.Object({
      lengthUnit: Type.String(),
      /** Its map conversion (IfcMapConversion), metres and degrees. */
      survey: Nullable(
        Type.Object({
          eastings: Metres,
          northings: Metres,
          height: Metres,
          rotation: Type.Number(),
          grid: Type.String(),
        }),
      ),
      /** Of its elements: the lower corner, the upper one. */
      bounds: Nullable(Type.Tuple([Metres, Metres, Metres, Metres, Metres, Metres])),
    }),
  ),
  findings: Type.Array(
    Type.Object({
      code: OneOf(POSITION_FINDINGS),
      values: Type.Record(Type.String(), Type.Union([Type.String(), Type.Number()])),
    }),
  ),
  /** What would bring it to the others from where it was delivered. */
  placing: Nullable(Placing),
  /** How it was put by somebody, and for which of its versions, as far as you see that. */
  set: Nullable(Type.Object({ placing: Placing, by: Person, at: Moment(), number: Nullable(Type.Integer()) })),
});
export type ModelPlace = Static<typeof ModelPlace>;
export const listModelPlaces = operation('listModelPlaces', {
  method: 'get',
  path: '/projects/:projectId/federations/:federationId/places',
  summary: 'Where the models of a federation lie, and what is wrong with those that do not lie together',
  access: see,
  response: Type.Array(ModelPlace),
});

const LineUpContent = {
  name: Line(80),
  /** Whether everybody sees it who sees one of its models. */
  shared: Type.Boolean(),
  models: Type.Array(
    /** Null: the newest version. */
    Type.Object({ containerId: Id(), versionId: Nullable(Id()) }, strict),
    { minItems: 1, maxItems: 200 },
  ),
  /** Levels that are shown, with the elevation of their lowest floor; null for what stands on none. None: all of them. */
  levels: Type.Array(
    Type.Object({ name: Type.String({ maxLength: 200 }), elevation: Nullable(Type.Number()) }, strict),
    {
      maxItems: 300,
    },
  ),
  /** GlobalIds of what is hidden. */
  hidden: Type.Array(Type.String({ maxLength: 64 }), { maxItems: 100_000 }),
};
/** A choice of models, versions and storeys. */
export const LineUp = Type.Object({
  id: Id(),
  ...LineUpContent,
  /** Versions of the models, as whoever asks sees them. */
  versionIds: Type.Array(Id()),
  owner: Type.String(),
  mine: Type.Boolean(),
});
export type LineUp = Static<typeof LineUp>;
export const listLineUps = operation('listLineUps', {
  method: 'get',
  path: '/projects/:projectId/line-ups',
  summary: 'Line-ups of your own, and those for everyone of which you see a model',
  access: see,
  response: Type.Array(LineUp),
});
export const saveLineUp = operation('saveLineUp', {
  largestBody: 8_000_000,
  method: 'post',
  path: '/projects/:projectId/line-ups',
  summary: 'Save a line-up; one of the same name of your own is replaced',
  access: see,
  body: Type.Object(LineUpContent, strict),
  response: LineUp,
});
export const removeLineUp = operation('removeLineUp', {
  method: 'delete',
  path: '/projects/:projectId/line-ups/:lineUpId',
  summary: 'Remove a line-up of your own, or any as an administrator',
  access: see,
});
