import { Type, type Static } from '@sinclair/typebox';
import { CONTAINER_STATES, PREPARATION_STATES } from '@kindred/core/register/states';
import { LEVELS } from '@kindred/core/register/folder-rights';
import { FILE_KINDS } from '@kindred/core/register/file-kind';
import { Person } from '../identity/identity.ts';
import {
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
  /** What the asker may do in its folder. */
  level: OneOf(LEVELS),
});
export type Container = Static<typeof Container>;

export const CONTAINER_SORTS = ['code', 'title', 'deliveredAt', 'revision', 'status'] as const;
export const listContainers = operation('listContainers', {
  method: 'get',
  path: '/projects/:projectId/containers',
  summary: 'The register, filtered, sorted, a page at a time',
  access: { kind: 'register', action: 'see' },
  query: Type.Object(
    {
      ...PageQuery,
      q: Type.Optional(Type.String({ maxLength: 100 })),
      folderId: Type.Optional(Id()),
      kind: Type.Optional(OneOf(FILE_KINDS)),
      state: Type.Optional(OneOf(CONTAINER_STATES)),
      status: Type.Optional(Type.String({ maxLength: 20 })),
      teamId: Type.Optional(Id()),
      intake: Type.Optional(Type.Boolean()),
      sort: Type.Optional(OneOf(CONTAINER_SORTS)),
      descending: Type.Optional(Type.Boolean()),
    },
    { additionalProperties: false },
  ),
  response: Page(Container),
});

export const Version = Type.Object({
  id: Id(),
  number: Type.Integer(),
  fileName: Type.String(),
  mediaType: Type.String(),
  kind: OneOf(FILE_KINDS),
  size: Type.Integer(),
  sha256: Type.String(),
  status: Type.String(),
  revision: Type.String(),
  classification: Type.String(),
  description: Type.String(),
  preparation: OneOf(PREPARATION_STATES),
  preparationNote: Type.String(),
  deliveredAt: Moment(),
  deliveredBy: Person,
});
export type Version = Static<typeof Version>;

export const showContainer = operation('showContainer', {
  method: 'get',
  path: '/projects/:projectId/containers/:containerId',
  summary: 'A container with its lineage: all versions, newest first, each with its own metadata',
  access: { kind: 'register', action: 'see' },
  response: Type.Object({ container: Container, versions: Type.Array(Version) }),
});
export type ContainerView = Static<typeof showContainer.response>;

const Metadata = {
  title: Type.Optional(OptionalLine(200)),
  status: Type.Optional(OptionalLine(20)),
  revision: Type.Optional(OptionalLine(20)),
  classification: Type.Optional(OptionalLine(60)),
  description: Type.Optional(Prose(2000)),
};

export const deliver = operation('deliver', {
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
          { uploadId: Type.String({ pattern: '^[a-f0-9]{32}$' }), code: Line(200), ...Metadata },
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
    files: Type.Array(
      Type.Object({
        uploadId: Type.String(),
        containerId: Id(),
        versionId: Id(),
        versionNumber: Type.Integer(),
        atIntake: Type.Boolean(),
      }),
    ),
  }),
});

export const lookUpCodes = operation('lookUpCodes', {
  method: 'post',
  path: '/projects/:projectId/codes',
  summary: 'What the register knows of these codes: the metadata that a next version is proposed with',
  access: { kind: 'register', action: 'add' },
  body: Type.Object({ codes: Type.Array(Line(200), { maxItems: 1000 }) }, { additionalProperties: false }),
  response: Type.Array(
    Type.Pick(Container, ['code', 'title', 'status', 'revision', 'classification', 'versionNumber']),
  ),
});

export const repairName = operation('repairName', {
  method: 'post',
  path: '/projects/:projectId/containers/:containerId/name',
  summary: 'Give a container at the intake a conforming code; it moves to the register',
  access: { kind: 'register', action: 'manage' },
  body: Type.Object({ code: Line(200) }, { additionalProperties: false }),
  response: Container,
});

export const moveState = operation('moveState', {
  method: 'post',
  path: '/projects/:projectId/containers/:containerId/state',
  summary: 'Share, publish, archive or withdraw a container',
  access: { kind: 'register', action: 'change' },
  body: Type.Object(
    { action: OneOf(['share', 'publish', 'archive', 'withdraw'] as const), reason: Type.Optional(Prose(500)) },
    { additionalProperties: false },
  ),
  response: Container,
});

export const describeContainer = operation('describeContainer', {
  method: 'patch',
  path: '/projects/:projectId/containers/:containerId',
  summary: 'Change title or description of the current version',
  access: { kind: 'register', action: 'change' },
  body: Type.Object(
    { title: Type.Optional(OptionalLine(200)), description: Type.Optional(Prose(2000)) },
    { additionalProperties: false },
  ),
  response: Container,
});

export const downloadVersion = operation('downloadVersion', {
  method: 'get',
  path: '/projects/:projectId/versions/:versionId/file',
  summary: 'The file of a version as it was delivered',
  access: { kind: 'register', action: 'see' },
  binary: true,
});

export const PRODUCTS = ['thumbnail', 'scene', 'elements'] as const;
export const downloadProduct = operation('downloadProduct', {
  method: 'get',
  path: '/projects/:projectId/versions/:versionId/products/:product',
  summary: 'What preparation made of a version: a thumbnail, the scene package or the element table of a model',
  access: { kind: 'register', action: 'see' },
  params: Type.Object({ product: OneOf(PRODUCTS) }),
  binary: true,
});

export const prepareAgain = operation('prepareAgain', {
  method: 'post',
  path: '/projects/:projectId/versions/:versionId/prepare',
  summary: 'Try the preparation of a version again',
  access: { kind: 'register', action: 'add' },
});
