/** Programs that act in people's names: registered once, let in by each person (OAuth 2, code flow with PKCE: RFC 6749, 7636). */
import { Type, type Static } from '@sinclair/typebox';
import { Id, Line, Moment, operation } from '../platform/operation.ts';

/** An address of a program: HTTPS, or this machine. */
const RedirectUri = Type.String({
  maxLength: 500,
  pattern: '^(?:https://[^\\s#]+|http://(?:localhost|127\\.0\\.0\\.1)(?::\\d{1,5})?(?:/[^\\s#]*)?)$',
});
export const Program = Type.Object({
  id: Id(),
  name: Type.String(),
  redirectUris: Type.Array(Type.String()),
  createdAt: Moment(),
});
export type Program = Static<typeof Program>;

export const listPrograms = operation('listPrograms', {
  method: 'get',
  path: '/programs',
  summary: 'Programs that are registered with this installation',
  access: 'signed in',
  response: Type.Array(Program),
});
export const addProgram = operation('addProgram', {
  costly: true,
  method: 'post',
  path: '/programs',
  summary: 'Register a program (installation administrators); its secret is shown this once',
  access: 'signed in',
  body: Type.Object(
    { name: Line(100), redirectUris: Type.Array(RedirectUri, { minItems: 1, maxItems: 5, uniqueItems: true }) },
    { additionalProperties: false },
  ),
  response: Type.Object({ program: Program, secret: Type.String() }),
});
export const removeProgram = operation('removeProgram', {
  method: 'delete',
  path: '/programs/:programId',
  summary: 'Remove a program: what it was let in with ends (installation administrators)',
  access: 'signed in',
});
export const letProgramIn = operation('letProgramIn', {
  costly: true,
  method: 'post',
  path: '/programs/:programId/grants',
  summary: 'Let a program act in your name: answers the address that leads back to it, with a code that is good once',
  access: 'signed in',
  body: Type.Object(
    {
      redirectUri: Type.String({ maxLength: 500 }),
      state: Type.Optional(Type.String({ maxLength: 1000 })),
      /** S256. */
      codeChallenge: Type.Optional(Type.String({ pattern: '^[A-Za-z0-9_-]{43}$' })),
    },
    { additionalProperties: false },
  ),
  response: Type.Object({ redirect: Type.String() }),
});
