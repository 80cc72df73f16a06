import { Type, type Static } from '@sinclair/typebox';
import { Edition, Id, Line, operation, Prose } from '../platform/operation.ts';
import { UploadId } from '../register/uploads.ts';

const colour = Type.String({ pattern: '^#[0-9a-fA-F]{6}$' });
const side = Type.Number({ minimum: 20, maximum: 1000 });

/** A ready stamp: lines with fields in braces, or a picture. */
export const Stamp = Type.Object({
  id: Id(),
  name: Type.String(),
  text: Type.String(),
  colour: Type.String(),
  picture: Type.Boolean(),
  /** Points. */
  width: Type.Number(),
  height: Type.Number(),
  /** Roles whose holders place it; none for everybody who may mark. */
  roleIds: Type.Array(Id()),
  /** Whoever asks may place it. */
  mine: Type.Boolean(),
  edition: Edition(),
});
export type Stamp = Static<typeof Stamp>;

const parts = {
  name: Line(80),
  text: Prose(400),
  colour,
  width: side,
  height: side,
  roleIds: Type.Array(Id(), { maxItems: 50 }),
};
export const listStamps = operation('listStamps', {
  method: 'get',
  path: '/projects/:projectId/stamps',
  summary: 'The stamps of the project',
  access: { kind: 'markup', action: 'see' },
  response: Type.Array(Stamp),
});
export const addStamp = operation('addStamp', {
  method: 'post',
  path: '/projects/:projectId/stamps',
  summary: 'Add a stamp; a picture is sent before with the purpose “markup”, as PNG or JPEG',
  access: { kind: 'markup', action: 'change' },
  body: Type.Object({ ...parts, uploadId: Type.Optional(UploadId) }, { additionalProperties: false }),
  response: Stamp,
});
export const changeStamp = operation('changeStamp', {
  method: 'patch',
  path: '/projects/:projectId/stamps/:stampId',
  summary: 'Change a stamp; what was placed stays as it is',
  access: { kind: 'markup', action: 'change' },
  body: Type.Object(
    { edition: Edition(), ...Type.Partial(Type.Object(parts)).properties },
    { additionalProperties: false },
  ),
  response: Stamp,
});
export const removeStamp = operation('removeStamp', {
  method: 'delete',
  path: '/projects/:projectId/stamps/:stampId',
  summary: 'Remove a stamp from the catalogue; what was placed stays',
  access: { kind: 'markup', action: 'change' },
});
export const showStampPicture = operation('showStampPicture', {
  method: 'get',
  path: '/projects/:projectId/stamps/:stampId/picture',
  summary: 'The picture of a stamp',
  access: { kind: 'markup', action: 'see' },
  binary: true,
});
