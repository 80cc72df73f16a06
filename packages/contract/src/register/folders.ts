import { Type, type Static } from '@sinclair/typebox';
import { LEVELS, SUBJECTS } from '@kindred/core/register/folder-rights';
import { Edition, Id, Nullable, OneOf, operation } from '../platform/operation.ts';

export const Folder = Type.Object({
  id: Id(),
  parentId: Nullable(Id()),
  name: Type.String(),
  /** Names from the root, joined by “ / ”. */
  path: Type.String(),
  depth: Type.Integer(),
  teamId: Nullable(Id()),
  /** The convention that it names itself; null where it takes that of the folder above. */
  conventionId: Nullable(Id()),
  /** How many permissions are set on it. */
  permissions: Type.Integer(),
  /** What you may do in it. */
  level: OneOf(LEVELS),
  edition: Edition(),
  containers: Type.Integer(),
});
export type Folder = Static<typeof Folder>;

const FolderName = () =>
  Type.String({ minLength: 1, maxLength: 80, pattern: '^(?=[\\s\\S]*\\S)[^\\u0000-\\u001f\\u007f/\\\\]+$' });

export const listFolders = operation('listFolders', {
  method: 'get',
  path: '/projects/:projectId/folders',
  summary:
    'The folders that you may see, in the order of their tree, with the number of containers that you see in each',
  access: { kind: 'register', action: 'see' },
  response: Type.Array(Folder),
});

export const addFolder = operation('addFolder', {
  method: 'post',
  path: '/projects/:projectId/folders',
  summary: 'Add a folder',
  access: { kind: 'register', action: 'manage' },
  body: Type.Object(
    { parentId: Nullable(Id()), name: FolderName(), teamId: Type.Optional(Nullable(Id())) },
    { additionalProperties: false },
  ),
  response: Folder,
});

export const changeFolder = operation('changeFolder', {
  method: 'patch',
  path: '/projects/:projectId/folders/:folderId',
  summary: 'Rename or move a folder, or change its team or naming convention',
  access: { kind: 'register', action: 'manage' },
  body: Type.Object(
    {
      edition: Edition(),
      name: Type.Optional(FolderName()),
      parentId: Type.Optional(Nullable(Id())),
      teamId: Type.Optional(Nullable(Id())),
      conventionId: Type.Optional(Nullable(Id())),
    },
    { additionalProperties: false },
  ),
  response: Folder,
});

export const removeFolder = operation('removeFolder', {
  method: 'delete',
  path: '/projects/:projectId/folders/:folderId',
  summary: 'Remove an empty folder',
  access: { kind: 'register', action: 'delete' },
});

const Permission = Type.Object(
  { subject: OneOf(SUBJECTS), subjectId: Id(), level: OneOf(LEVELS) },
  { additionalProperties: false },
);
export type FolderPermission = Static<typeof Permission>;

export const listFolderPermissions = operation('listFolderPermissions', {
  method: 'get',
  path: '/projects/:projectId/folders/:folderId/permissions',
  summary: 'The permissions that hold in a folder: its own, and those from above that no nearer one replaces',
  access: { kind: 'register', action: 'manage' },
  response: Type.Object({
    edition: Edition(),
    permissions: Type.Array(
      Type.Composite([
        Permission,
        Type.Object({
          name: Type.String(),
          /** The folder it is set on. */
          folderId: Id(),
          folderPath: Type.String(),
          /** Set here, or taken from above. */
          own: Type.Boolean(),
        }),
      ]),
    ),
  }),
});
export type FolderPermissions = Static<typeof listFolderPermissions.response>;

export const changeFolderPermissions = operation('changeFolderPermissions', {
  method: 'put',
  path: '/projects/:projectId/folders/:folderId/permissions',
  summary: 'Set all permissions of a folder; they hold below it too, until a nearer one takes their place',
  access: { kind: 'register', action: 'manage' },
  body: Type.Object(
    { edition: Edition(), permissions: Type.Array(Permission, { maxItems: 500 }) },
    { additionalProperties: false },
  ),
  response: listFolderPermissions.response,
});
