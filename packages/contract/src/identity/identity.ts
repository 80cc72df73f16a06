import { Type, type Static } from '@sinclair/typebox';
import { Id, Line, Moment, Nullable, operation } from '../platform/operation.ts';

export const Person = Type.Object({
  id: Id(),
  name: Type.String(),
  email: Type.String(),
  initials: Type.String(),
  colour: Type.String(),
});
export type Person = Static<typeof Person>;

export const Session = Type.Object({
  person: Person,
  /** Sent back as the header X-CSRF-Token with every change. */
  csrfToken: Type.String(),
  installationAdministrator: Type.Boolean(),
});
export type Session = Static<typeof Session>;

const Email = Type.String({ format: 'email', maxLength: 200 });
const Password = Type.String({ minLength: 10, maxLength: 200 });

export const showSignIn = operation('showSignIn', {
  method: 'get',
  path: '/sign-in',
  summary:
    'What the sign-in page offers: people of a demo installation, or the form for the first person of an empty one',
  access: 'public',
  response: Type.Object({
    firstPerson: Type.Boolean(),
    demoPeople: Type.Array(
      Type.Object({
        email: Type.String(),
        name: Type.String(),
        initials: Type.String(),
        colour: Type.String(),
        about: Type.String(),
      }),
    ),
  }),
});

export const signIn = operation('signIn', {
  method: 'post',
  path: '/sign-in',
  summary: 'Sign in with e-mail and password',
  access: 'public',
  body: Type.Object(
    { email: Email, password: Type.String({ minLength: 1, maxLength: 200 }) },
    { additionalProperties: false },
  ),
  response: Session,
});

export const signInAsDemo = operation('signInAsDemo', {
  method: 'post',
  path: '/sign-in/demo',
  summary: 'Sign in as one of the people of a demo installation',
  access: 'public',
  body: Type.Object({ email: Email }, { additionalProperties: false }),
  response: Session,
});

export const createFirstPerson = operation('createFirstPerson', {
  method: 'post',
  path: '/sign-in/first',
  summary: 'Create the first person of an empty installation, who administers it',
  access: 'public',
  body: Type.Object({ name: Line(100), email: Email, password: Password }, { additionalProperties: false }),
  response: Session,
});

export const acceptInvitation = operation('acceptInvitation', {
  method: 'post',
  path: '/sign-in/invitation',
  summary: 'Choose a password with the key of an invitation, and sign in',
  access: 'public',
  body: Type.Object(
    { key: Type.String({ minLength: 20, maxLength: 200 }), password: Password },
    { additionalProperties: false },
  ),
  response: Session,
});

export const showSession = operation('showSession', {
  method: 'get',
  path: '/session',
  summary: 'Who is signed in',
  access: 'signed in',
  response: Session,
});

export const signOut = operation('signOut', {
  method: 'post',
  path: '/sign-out',
  summary: 'End this session',
  access: 'signed in',
});

export const Token = Type.Object({
  id: Id(),
  name: Type.String(),
  createdAt: Moment(),
  lastUsedAt: Nullable(Moment()),
});
export const listTokens = operation('listTokens', {
  method: 'get',
  path: '/tokens',
  summary: 'Your personal tokens for the API',
  access: 'signed in',
  response: Type.Array(Token),
});
export const createToken = operation('createToken', {
  method: 'post',
  path: '/tokens',
  summary: 'Create a personal token; its secret is shown this once',
  access: 'signed in',
  body: Type.Object({ name: Line(100) }, { additionalProperties: false }),
  response: Type.Object({ id: Id(), secret: Type.String() }),
});
export const deleteToken = operation('deleteToken', {
  method: 'delete',
  path: '/tokens/:tokenId',
  summary: 'Delete a personal token',
  access: 'signed in',
});

export const Mail = Type.Object({
  id: Type.Integer(),
  to: Type.String(),
  subject: Type.String(),
  text: Type.String(),
  link: Nullable(Type.String()),
  sentAt: Moment(),
});
export type Mail = Static<typeof Mail>;
export const listOutbox = operation('listOutbox', {
  method: 'get',
  path: '/outbox',
  summary: 'Mail to you that the simulated outbox holds (an installation administrator sees all)',
  access: 'signed in',
  response: Type.Array(Mail),
});

export const Notice = Type.Object({
  id: Type.Integer(),
  projectId: Id(),
  text: Type.String(),
  link: Type.String(),
  at: Moment(),
  read: Type.Boolean(),
});
export type Notice = Static<typeof Notice>;
export const listNotices = operation('listNotices', {
  method: 'get',
  path: '/notices',
  summary: 'What the bell has for you, newest first',
  access: 'signed in',
  response: Type.Object({ unread: Type.Integer(), items: Type.Array(Notice) }),
});
export const readNotices = operation('readNotices', {
  method: 'post',
  path: '/notices/read',
  summary: 'Mark notices as read up to a number',
  access: 'signed in',
  body: Type.Object({ upTo: Type.Integer({ minimum: 0 }) }, { additionalProperties: false }),
});
