import { Type, type Static } from '@sinclair/typebox';
import { MAIL_WAYS, NOTICE_KINDS, type MailChoices as CoreMailChoices } from '@kindred/core/platform/notices';
import { Id, Line, Moment, Nullable, OneOf, operation, Page, PageQuery } from '../platform/operation.ts';

export const Person = Type.Object({
  id: Id(),
  name: Type.String(),
  email: Type.String(),
  initials: Type.String(),
  colour: Type.String(),
  /** Somebody without an account, known by the name that they gave. */
  guest: Type.Boolean(),
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
    /** People of a demo may sign in with one click. */
    demo: Type.Boolean(),
    /** What the button for the organisation's own accounts says; null where there is none. */
    provider: Nullable(Type.String()),
  }),
});

export const beginProviderSignIn = operation('beginProviderSignIn', {
  method: 'get',
  path: '/sign-in/provider',
  summary: 'Go to the OpenID Connect provider of this installation to sign in there',
  access: 'public',
  query: Type.Object({ then: Type.Optional(Type.String({ maxLength: 2000 })) }, { additionalProperties: false }),
  binary: true,
});

export const finishProviderSignIn = operation('finishProviderSignIn', {
  method: 'get',
  path: '/sign-in/provider/return',
  summary: 'Where the provider sends people back to: signs in whoever it vouches for, and goes to the application',
  access: 'public',
  // A provider may send along more than the protocol names.
  query: Type.Object({ state: Type.Optional(Type.String({ maxLength: 500 })) }, { additionalProperties: true }),
  binary: true,
});

export const signIn = operation('signIn', {
  method: 'post',
  path: '/sign-in',
  summary: 'Sign in with e-mail and password',
  access: 'public',
  body: Type.Object(
    {
      email: Email,
      password: Type.String({ minLength: 1, maxLength: 200 }),
      /** Of the second factor, where it is on: without it the answer is 401 with the code `second-factor`. */
      code: Type.Optional(Type.String({ minLength: 6, maxLength: 20 })),
    },
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

export const askForNewPassword = operation('askForNewPassword', {
  method: 'post',
  path: '/sign-in/password-request',
  summary:
    'Have a link sent that is good for choosing a new password, once, for an hour; says nothing of whose address it is',
  access: 'public',
  body: Type.Object({ email: Email }, { additionalProperties: false }),
});

export const chooseNewPassword = operation('chooseNewPassword', {
  method: 'post',
  path: '/sign-in/password',
  summary: 'Choose a new password with the key of such a link; all sessions and tokens end, this one begins',
  access: 'public',
  body: Type.Object(
    { key: Type.String({ minLength: 20, maxLength: 200 }), password: Password },
    { additionalProperties: false },
  ),
  response: Session,
});

export const changeName = operation('changeName', {
  costly: true,
  method: 'put',
  path: '/name',
  summary: 'Correct your name, as all projects show it',
  access: 'signed in',
  body: Type.Object({ name: Line(100) }, { additionalProperties: false }),
  response: Person,
});

export const changeAddress = operation('changeAddress', {
  costly: true,
  method: 'post',
  path: '/address',
  summary: 'Ask for another address of your account: it holds once the link that goes there was opened',
  access: 'signed in',
  body: Type.Object(
    {
      address: Type.String({ format: 'email', maxLength: 200 }),
      password: Type.String({ minLength: 1, maxLength: 200 }),
    },
    { additionalProperties: false },
  ),
});

export const confirmAddress = operation('confirmAddress', {
  method: 'post',
  path: '/address/confirmation',
  summary: 'Confirm an address with the key that was mailed there',
  access: 'public',
  body: Type.Object({ key: Type.String({ minLength: 1, maxLength: 100 }) }, { additionalProperties: false }),
  response: Type.Object({ address: Type.String() }),
});

export const changePassword = operation('changePassword', {
  costly: true,
  method: 'put',
  path: '/password',
  summary: 'Change your password; your other sessions end',
  access: 'signed in',
  body: Type.Object(
    { current: Type.String({ minLength: 1, maxLength: 200 }), password: Password },
    { additionalProperties: false },
  ),
});

export const SessionRow = Type.Object({
  id: Type.String(),
  /** Browser and system, as the browser names them. */
  device: Type.String(),
  createdAt: Moment(),
  lastUsedAt: Moment(),
  current: Type.Boolean(),
});
export type SessionRow = Static<typeof SessionRow>;
export const listSessions = operation('listSessions', {
  method: 'get',
  path: '/sessions',
  summary: 'Where you are signed in, and whether a second factor is on',
  access: 'signed in',
  response: Type.Object({ secondFactor: Type.Boolean(), sessions: Type.Array(SessionRow) }),
});
export const endSession = operation('endSession', {
  method: 'delete',
  path: '/sessions/:sessionId',
  summary: 'End one of your sessions',
  access: 'signed in',
  params: Type.Object({ sessionId: Type.String({ pattern: '^[0-9a-f]{24}$' }) }),
});
export const endAllOthers = operation('endAllOthers', {
  method: 'post',
  path: '/sessions/end-all',
  summary: 'End all your other sessions and all your tokens',
  access: 'signed in',
});

export const beginSecondFactor = operation('beginSecondFactor', {
  method: 'post',
  path: '/second-factor',
  summary: 'A new secret for your authenticator; it counts once a first code was right',
  access: 'signed in',
  response: Type.Object({ secret: Type.String(), address: Type.String() }),
});
export const turnOnSecondFactor = operation('turnOnSecondFactor', {
  costly: true,
  method: 'put',
  path: '/second-factor',
  summary: 'Turn the second factor on with a first code; answers codes for who loses the device, shown this once',
  access: 'signed in',
  body: Type.Object({ code: Type.String({ minLength: 6, maxLength: 20 }) }, { additionalProperties: false }),
  response: Type.Object({ recoveryCodes: Type.Array(Type.String()) }),
});
export const turnOffSecondFactor = operation('turnOffSecondFactor', {
  costly: true,
  method: 'post',
  path: '/second-factor/off',
  summary: 'Turn the second factor off',
  access: 'signed in',
  body: Type.Object({ password: Type.String({ minLength: 1, maxLength: 200 }) }, { additionalProperties: false }),
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
  costly: true,
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
  /** Null, as text and link, where it is to somebody else. */
  subject: Nullable(Type.String()),
  text: Nullable(Type.String()),
  link: Nullable(Type.String()),
  sentAt: Moment(),
  /** You may reply to it. */
  replies: Type.Boolean(),
});
export type Mail = Static<typeof Mail>;
export const listOutbox = operation('listOutbox', {
  method: 'get',
  path: '/outbox',
  summary:
    'Mail to you that the simulated outbox holds (an installation administrator sees that of others without its words)',
  access: 'signed in',
  query: Type.Object(PageQuery, { additionalProperties: false }),
  response: Page(Mail),
});

const MailText = Type.String({ minLength: 1, maxLength: 100_000, pattern: '\\S' });
export const replyToMail = operation('replyToMail', {
  method: 'post',
  path: '/outbox/:mailId/reply',
  summary:
    'The simulated inbox: what a person replies to a letter goes to where the letter came from, without what is quoted',
  access: 'signed in',
  costly: true,
  params: Type.Object({ mailId: Type.String({ pattern: '^[1-9][0-9]{0,14}$' }) }),
  body: Type.Object({ text: MailText }, { additionalProperties: false }),
  response: Type.Object({ link: Type.String() }),
});
export const writeToProject = operation('writeToProject', {
  method: 'post',
  path: '/projects/:projectId/inbox',
  summary: 'The simulated inbox: a letter to a project becomes an issue of its first type',
  access: 'member',
  costly: true,
  body: Type.Object({ subject: Line(200), text: MailText }, { additionalProperties: false }),
  response: Type.Object({ link: Type.String() }),
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
  query: Type.Object(PageQuery, { additionalProperties: false }),
  response: Type.Composite([Page(Notice), Type.Object({ unread: Type.Integer() })]),
});
export const readNotices = operation('readNotices', {
  method: 'post',
  path: '/notices/read',
  summary: 'Mark notices as read up to a number',
  access: 'signed in',
  body: Type.Object({ upTo: Type.Integer({ minimum: 0 }) }, { additionalProperties: false }),
});

const Choices = Type.Unsafe<CoreMailChoices>(
  Type.Object(Object.fromEntries(NOTICE_KINDS.map((kind) => [kind, OneOf(MAIL_WAYS)])), {
    additionalProperties: false,
  }),
);
export const showMailChoices = operation('showMailChoices', {
  method: 'get',
  path: '/mail-choices',
  summary: 'How mail reaches you, for each kind of notice',
  access: 'signed in',
  response: Choices,
});
export const changeMailChoices = operation('changeMailChoices', {
  method: 'put',
  path: '/mail-choices',
  summary: 'Choose how mail reaches you: at once, in one letter a day, or not at all',
  access: 'signed in',
  body: Choices,
  response: Choices,
});

/** How one likes things: units, pens, scales of sheets that one has calibrated. What a key means is the interface's own. */
export const PreferenceKey = Type.String({ pattern: '^[a-z][a-z0-9/-]{0,99}$' });
export const listPreferences = operation('listPreferences', {
  method: 'get',
  path: '/preferences',
  summary: 'How you like things, on whichever machine you sign in',
  access: 'signed in',
  response: Type.Record(Type.String(), Type.Unknown()),
});
export const changePreference = operation('changePreference', {
  method: 'put',
  path: '/preferences',
  summary: 'Keep how you like one thing, in at most 20,000 characters; of more than 1,000 the oldest go',
  access: 'signed in',
  body: Type.Object({ key: PreferenceKey, value: Type.Unknown() }, { additionalProperties: false }),
});
