import { LongJob } from '../platform/jobs.ts';
import { Type, type Static } from '@sinclair/typebox';
import type { Gates as CoreGates } from '@kindred/core/register/gates';
import {
  CONTAINER_STATES,
  DELIVERY_SOURCES,
  PREPARATION_STATES,
  VERSION_SEQUENCES,
} from '@kindred/core/register/states';
import { LEVELS } from '@kindred/core/register/folder-rights';
import { FILE_KINDS } from '@kindred/core/register/file-kind';
import { Person } from '../identity/identity.ts';
import {
  Edition,
  Id,
  Line,
  Moment,
  Nullable,
  OneOf,
  operation,
  OptionalLine,
  Page,
  PageQuery,
  Prose,
} from '../platform/operation.ts';

export const Container = Type.Object({
  id: Id(),
  folderId: Id(),
  code: Type.String(),
  title: Type.String(),
  kind: OneOf(FILE_KINDS),
  state: OneOf(CONTAINER_STATES),
  teamId: Nullable(Id()),
  atIntake: Type.Boolean(),
  versionId: Id(),
  versionNumber: Type.Integer(),
  fileName: Type.String(),
  status: Type.String(),
  revision: Type.String(),
  classification: Type.String(),
  description: Type.String(),
  preparation: OneOf(PREPARATION_STATES),
  preparationNote: Type.String(),
  sheets: Type.Integer(),
  size: Type.Integer(),
  deliveredAt: Moment(),
  deliveredBy: Type.String(),
  /** Who alone may add to its line, and since when. */
  reservedBy: Nullable(Type.String()),
  reservedAt: Nullable(Moment()),
  /** Conflicting versions that wait for a decision. */
  conflicting: Type.Integer(),
  /** What the asker may do in its folder. */
  level: OneOf(LEVELS),
});
export type Container = Static<typeof Container>;

export const CONTAINER_SORTS = [
  'code',
  'title',
  'deliveredAt',
  'revision',
  'status',
  'state',
  'kind',
  'classification',
] as const;
/** Columns that the register groups by; besides `field:` with the name of a part of the code. */
export const CONTAINER_GROUPS = [
  'status',
  'state',
  'kind',
  'revision',
  'classification',
  'preparation',
  'teamId',
  'folderId',
  'deliveredBy',
] as const;

const Several = () => Type.Optional(Type.String({ maxLength: 2000 }));
const Filters = {
  q: Type.Optional(Type.String({ maxLength: 100 })),
  /** Several values are separated by commas, here and below. */
  folderId: Type.Optional(Type.String({ pattern: '^[0-9a-f-]{36}(,[0-9a-f-]{36})*$', maxLength: 2000 })),
  /** With everything below the folder. */
  deep: Type.Optional(Type.Boolean()),
  kind: Several(),
  state: Several(),
  status: Several(),
  revision: Several(),
  classification: Several(),
  preparation: Several(),
  teamId: Type.Optional(Type.String({ pattern: '^[0-9a-f-]{36}(,[0-9a-f-]{36})*$', maxLength: 2000 })),
  deliveredBy: Type.Optional(Type.String({ pattern: '^[0-9a-f-]{36}(,[0-9a-f-]{36})*$', maxLength: 2000 })),
  deliveredFrom: Type.Optional(Moment()),
  deliveredBefore: Type.Optional(Moment()),
  /** Parts of the code, as JSON: `{"Form":"D"}`. */
  fields: Type.Optional(Type.String({ maxLength: 1000 })),
  conflicting: Type.Optional(Type.Boolean()),
  reserved: Type.Optional(Type.Boolean()),
  intake: Type.Optional(Type.Boolean()),
};
const Order = {
  sort: Type.Optional(OneOf(CONTAINER_SORTS)),
  descending: Type.Optional(Type.Boolean()),
};
const registerQuery = Type.Object({ ...PageQuery, ...Filters, ...Order }, { additionalProperties: false });
export type RegisterQuery = Static<typeof registerQuery>;

export const listContainers = operation('listContainers', {
  method: 'get',
  path: '/projects/:projectId/containers',
  summary: 'The register, filtered, sorted, a page at a time',
  access: { kind: 'register', action: 'see' },
  query: registerQuery,
  response: Page(Container),
});

/** `label`: what to call the value, where it is an id of somebody. */
export const ContainerGroup = Type.Object({ value: Type.String(), label: Type.String(), count: Type.Integer() });
export type ContainerGroup = Static<typeof ContainerGroup>;
export const groupContainers = operation('groupContainers', {
  method: 'get',
  path: '/projects/:projectId/container-groups',
  summary: 'How many containers the register has of each value of a column, under the same filters',
  access: { kind: 'register', action: 'see' },
  query: Type.Object({ ...Filters, by: Type.String({ maxLength: 80 }) }, { additionalProperties: false }),
  response: Type.Array(ContainerGroup),
});

export const exportContainers = operation('exportContainers', {
  costly: true,
  method: 'get',
  path: '/projects/:projectId/register-export',
  summary: 'What the filters find, as a file: XLSX or CSV',
  access: { kind: 'register', action: 'see' },
  query: Type.Object({ ...Filters, ...Order, as: OneOf(['xlsx', 'csv'] as const) }, { additionalProperties: false }),
  binary: true,
});

export const startRegisterExport = operation('startRegisterExport', {
  costly: true,
  method: 'post',
  path: '/projects/:projectId/register-export',
  summary: 'Make a file of what the filters find while you go on working: XLSX or CSV',
  access: { kind: 'register', action: 'see' },
  query: Type.Object({ ...Filters, ...Order, as: OneOf(['xlsx', 'csv'] as const) }, { additionalProperties: false }),
  response: LongJob,
});

export const downloadVersions = operation('downloadVersions', {
  costly: true,
  method: 'get',
  path: '/projects/:projectId/files',
  summary: 'Several versions as one zip, with an index and checksums',
  access: { kind: 'register', action: 'see' },
  query: Type.Object(
    { versionIds: Type.String({ pattern: '^[0-9a-f-]{36}(,[0-9a-f-]{36}){0,499}$' }) },
    { additionalProperties: false },
  ),
  binary: true,
});

/** What an authoring program works on, beside the file that people look at. */
export const NativeFile = Type.Object({ id: Id(), fileName: Type.String(), size: Type.Integer() });
export type NativeFile = Static<typeof NativeFile>;

export const Version = Type.Object({
  id: Id(),
  number: Type.Integer(),
  state: OneOf(CONTAINER_STATES),
  sequence: OneOf(VERSION_SEQUENCES),
  /** Number of the version that this one made current again. */
  restores: Nullable(Type.Integer()),
  fileName: Type.String(),
  mediaType: Type.String(),
  kind: OneOf(FILE_KINDS),
  size: Type.Integer(),
  sha256: Type.String(),
  title: Type.String(),
  status: Type.String(),
  revision: Type.String(),
  classification: Type.String(),
  description: Type.String(),
  preparation: OneOf(PREPARATION_STATES),
  preparationNote: Type.String(),
  deliveredAt: Moment(),
  deliveredBy: Person,
  /** From where it came; null for what was made current again. */
  source: Nullable(OneOf(DELIVERY_SOURCES)),
  /** None for those who get only a part of the version. */
  natives: Type.Array(NativeFile),
});
export type Version = Static<typeof Version>;

export const showContainer = operation('showContainer', {
  method: 'get',
  path: '/projects/:projectId/containers/:containerId',
  summary: 'A container with its versionsOf: all versions, newest first, each with its own metadata',
  access: { kind: 'register', action: 'see' },
  response: Type.Object({ container: Container, versions: Type.Array(Version) }),
});
export type ContainerView = Static<typeof showContainer.response>;

export const listCurrentVersions = operation('listCurrentVersions', {
  method: 'get',
  path: '/projects/:projectId/current-versions',
  summary: 'For versions in use: which version of the same container is current to the asker',
  access: { kind: 'register', action: 'see' },
  query: Type.Object(
    { versionIds: Type.String({ pattern: '^[0-9a-f-]{36}(,[0-9a-f-]{36}){0,199}$' }) },
    { additionalProperties: false },
  ),
  response: Type.Array(
    Type.Object({
      versionId: Id(),
      containerId: Id(),
      kind: OneOf(FILE_KINDS),
      number: Type.Integer(),
      title: Type.String(),
      current: Type.Object({ versionId: Id(), number: Type.Integer() }),
    }),
  ),
});

export const lookUpVersions = operation('lookUpVersions', {
  method: 'post',
  path: '/projects/:projectId/versions/look-up',
  summary:
    'Containers whose current versions have these ids, in their order; what the asker may not see, or has been followed by another version, is left out',
  access: { kind: 'register', action: 'see' },
  body: Type.Object({ versionIds: Type.Array(Id(), { maxItems: 1000 }) }, { additionalProperties: false }),
  response: Type.Array(Container),
});

const Metadata = {
  title: Type.Optional(OptionalLine(200)),
  status: Type.Optional(OptionalLine(20)),
  revision: Type.Optional(OptionalLine(20)),
  classification: Type.Optional(OptionalLine(60)),
  description: Type.Optional(Prose(2000)),
};

export const deliver = operation('deliver', {
  largestBody: 1_000_000,
  method: 'post',
  path: '/projects/:projectId/deliveries',
  summary:
    'Deliver uploaded files: the same code makes the next version, a name that does not conform waits at the intake',
  access: { kind: 'register', action: 'add' },
  body: Type.Object(
    {
      folderId: Id(),
      files: Type.Array(
        Type.Object(
          {
            uploadId: Type.String({ pattern: '^[a-f0-9]{32}$' }),
            code: Line(200),
            ...Metadata,
            /** Native files that belong to the same version: the register opens the file itself. */
            nativeUploadIds: Type.Optional(Type.Array(Type.String({ pattern: '^[a-f0-9]{32}$' }), { maxItems: 10 })),
            /** Number of the version that this one was made from: when a newer one is there, both are kept until somebody decides. */
            onto: Type.Optional(Type.Integer({ minimum: 0 })),
            /** A native file that would go with the newest version (`goesWith` in core) becomes a version of its own all the same. */
            ownVersion: Type.Optional(Type.Boolean()),
            /** Numbers of issues that it answers. */
            answers: Type.Optional(Type.Array(Type.Integer({ minimum: 1 }), { maxItems: 20, uniqueItems: true })),
          },
          { additionalProperties: false },
        ),
        { minItems: 1, maxItems: 1000 },
      ),
      /** Refuse the whole delivery instead of leaving files at the intake. */
      strict: Type.Optional(Type.Boolean()),
    },
    { additionalProperties: false },
  ),
  response: Type.Object({
    deliveryId: Id(),
    files: Type.Array(
      Type.Object({
        uploadId: Type.String(),
        containerId: Id(),
        versionId: Id(),
        versionNumber: Type.Integer(),
        /** It conflicts with another until somebody decides. */
        conflicting: Type.Boolean(),
        atIntake: Type.Boolean(),
      }),
    ),
  }),
});

export const lookUpCodes = operation('lookUpCodes', {
  largestBody: 1_000_000,
  method: 'post',
  path: '/projects/:projectId/codes',
  summary: 'What the register knows of these codes: the metadata that a next version is proposed with',
  access: { kind: 'register', action: 'add' },
  body: Type.Object({ codes: Type.Array(Line(200), { maxItems: 1000 }) }, { additionalProperties: false }),
  response: Type.Array(
    Type.Composite([
      Type.Pick(Container, [
        'code',
        'folderId',
        'title',
        'status',
        'revision',
        'classification',
        'versionNumber',
        'reservedBy',
      ]),
      /** `nextNumber`: of the version that would be delivered now. */
      Type.Object({
        sha256: Type.String(),
        nextNumber: Type.Integer(),
        fileName: Type.String(),
        state: Container.properties.state,
        natives: Type.Array(Type.Object({ fileName: Type.String(), sha256: Type.String() })),
      }),
    ]),
  ),
});

const Containers = (maxItems = 1000) => Type.Array(Id(), { minItems: 1, maxItems, uniqueItems: true });

export const repairNames = operation('repairNames', {
  largestBody: 1_000_000,
  costly: true,
  method: 'post',
  path: '/projects/:projectId/intake/repairs',
  summary:
    'Give files at the intake conforming codes: the right ones go to the register, the others stay with a reason',
  access: { kind: 'register', action: 'manage' },
  body: Type.Object(
    {
      repairs: Type.Array(
        Type.Object(
          {
            containerId: Id(),
            code: Line(200),
            ...Metadata,
            /** Where it goes; the folder that it was delivered to when absent. */
            folderId: Type.Optional(Id()),
            /** Where the register has this code already, let the file be its next version. */
            asVersion: Type.Optional(Type.Boolean()),
          },
          { additionalProperties: false },
        ),
        { minItems: 1, maxItems: 1000 },
      ),
    },
    { additionalProperties: false },
  ),
  response: Type.Array(
    Type.Object({
      containerId: Id(),
      code: Type.String(),
      problem: Nullable(Type.String()),
      /** The code whose next version it became. */
      versionOf: Nullable(Type.String()),
    }),
  ),
});

export const discardIntake = operation('discardIntake', {
  method: 'delete',
  path: '/projects/:projectId/intake/:containerId',
  summary: 'Take a file off the intake for good',
  access: { kind: 'register', action: 'add' },
});

export const GATED_ACTIONS = ['share', 'publish', 'archive', 'withdraw'] as const;
export const CONTAINER_ACTIONS = [...GATED_ACTIONS, 'bring back'] as const;
export const moveStates = operation('moveStates', {
  method: 'post',
  path: '/projects/:projectId/containers/states',
  summary:
    'Share, publish, archive or withdraw the current versions of containers, or bring them back from the archive: all of them, or none',
  access: { kind: 'register', action: 'change' },
  body: Type.Object(
    {
      containerIds: Containers(),
      action: OneOf(CONTAINER_ACTIONS),
      reason: Type.Optional(Prose(500)),
      /** Others see of the drawings only what this share set chooses. */
      shareSetId: Type.Optional(Id()),
    },
    { additionalProperties: false },
  ),
  response: Type.Array(Container),
});

const Edits = Type.Array(Type.Object({ containerId: Id(), ...Metadata }, { additionalProperties: false }), {
  minItems: 1,
  maxItems: 1000,
});
export const editContainers = operation('editContainers', {
  largestBody: 1_000_000,
  method: 'patch',
  path: '/projects/:projectId/containers',
  summary: 'Change the metadata of current versions, all or none; the answer says how to undo it',
  access: { kind: 'register', action: 'change' },
  body: Type.Object({ edits: Edits }, { additionalProperties: false }),
  response: Type.Object({ containers: Type.Array(Container), before: Edits }),
});

export const restoreVersion = operation('restoreVersion', {
  method: 'post',
  path: '/projects/:projectId/containers/:containerId/restore',
  summary: 'Make an older version current again: file and metadata come back as a new version',
  access: { kind: 'register', action: 'add' },
  body: Type.Object({ number: Type.Integer({ minimum: 1 }) }, { additionalProperties: false }),
  response: Container,
});

export const decideVersion = operation('decideVersion', {
  method: 'post',
  path: '/projects/:projectId/containers/:containerId/decision',
  summary: 'Decide about a conflicting version: take it, or set it aside; it is kept either way',
  access: { kind: 'register', action: 'change' },
  body: Type.Object(
    { number: Type.Integer({ minimum: 1 }), decision: OneOf(['take', 'set aside'] as const) },
    { additionalProperties: false },
  ),
  response: Container,
});

export const reserveContainers = operation('reserveContainers', {
  method: 'post',
  path: '/projects/:projectId/containers/reservations',
  summary: 'Reserve containers for oneself, or release them; whoever manages the register may break a reservation',
  access: { kind: 'register', action: 'add' },
  body: Type.Object({ containerIds: Containers(), reserve: Type.Boolean() }, { additionalProperties: false }),
});

const Gate = Type.Object(
  {
    right: OneOf(['change', 'manage'] as const),
    conformingName: Type.Boolean(),
    prepared: Type.Boolean(),
    noBlockingIssue: Type.Boolean(),
    statuses: Type.Array(Line(20), { maxItems: 100 }),
  },
  { additionalProperties: false },
);
const Gates = Type.Unsafe<CoreGates>(
  Type.Object({ share: Gate, publish: Gate, archive: Gate, withdraw: Gate }, { additionalProperties: false }),
);
export const showGates = operation('showGates', {
  method: 'get',
  path: '/projects/:projectId/gates',
  summary: 'What has to hold before a version is shared, published, archived or withdrawn',
  access: { kind: 'register', action: 'see' },
  response: Type.Object({ gates: Gates, edition: Type.Integer() }),
});
export const changeGates = operation('changeGates', {
  method: 'put',
  path: '/projects/:projectId/gates',
  summary: 'Change the gates of the project',
  access: { kind: 'register', action: 'manage' },
  body: Type.Object({ gates: Gates, edition: Edition() }, { additionalProperties: false }),
  response: Type.Object({ gates: Gates, edition: Type.Integer() }),
});

export const downloadVersion = operation('downloadVersion', {
  method: 'get',
  path: '/projects/:projectId/versions/:versionId/file',
  summary: 'The file of a version as it was delivered',
  access: { kind: 'register', action: 'see' },
  binary: true,
});

export const downloadNative = operation('downloadNative', {
  method: 'get',
  path: '/projects/:projectId/versions/:versionId/natives/:nativeId',
  summary: 'A native file of a version, for whoever gets all of the version',
  access: { kind: 'register', action: 'see' },
  binary: true,
});

export const PRODUCTS = ['thumbnail', 'scene', 'elements', 'properties'] as const;
export const downloadProduct = operation('downloadProduct', {
  method: 'get',
  path: '/projects/:projectId/versions/:versionId/products/:product',
  summary:
    'What preparation made of a version: a thumbnail; of a model the scene package, the element table or all properties',
  access: { kind: 'register', action: 'see' },
  params: Type.Object({ product: OneOf(PRODUCTS) }),
  /** Of a large model's scene, further parts than the first. */
  query: Type.Object(
    { part: Type.Optional(Type.Integer({ minimum: 1, maximum: 99 })) },
    { additionalProperties: false },
  ),
  binary: true,
});

export const prepareAgain = operation('prepareAgain', {
  costly: true,
  method: 'post',
  path: '/projects/:projectId/versions/:versionId/prepare',
  summary: 'Try the preparation of a version again',
  access: { kind: 'register', action: 'add' },
});
