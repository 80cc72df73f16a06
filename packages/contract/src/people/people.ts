import { Type, type Static } from '@sinclair/typebox';
import { Person } from '../identity/identity.ts';
import { ACTIONS, KINDS, WORK_AREAS } from '@kindred/core/people/rights';
import { Grid } from '../platform/rights.ts';
import { Edition, Id, Line, Moment, Nullable, OneOf, operation } from '../platform/operation.ts';

export const Party = Type.Object({ id: Id(), name: Type.String(), code: Type.String() });
export type Party = Static<typeof Party>;
export const Team = Type.Object({
  id: Id(),
  name: Type.String(),
  discipline: Type.String(),
  colour: Type.String(),
  leadId: Nullable(Id()),
  homeFolderId: Nullable(Id()),
});
export type Team = Static<typeof Team>;
export const Role = Type.Object({ id: Id(), name: Type.String(), grid: Grid, edition: Edition() });
export type Role = Static<typeof Role>;

/** The five stages; a person may work in some of them only. It decides what is shown first, not what is allowed. */
const WorkAreas = Nullable(Type.Array(OneOf(WORK_AREAS), { minItems: 1, uniqueItems: true }));

export const Member = Type.Object({
  id: Id(),
  person: Person,
  party: Nullable(Party),
  team: Nullable(Team),
  roles: Type.Array(Type.Object({ id: Id(), name: Type.String() })),
  administrator: Type.Boolean(),
  invited: Type.Boolean(),
  lastVisitAt: Nullable(Moment()),
  workAreas: WorkAreas,
  leftAt: Nullable(Moment()),
});
export type Member = Static<typeof Member>;

const PartyToName = Type.Object(
  { name: Line(120), code: Type.String({ pattern: '^[A-Z0-9]{2,6}$' }) },
  { additionalProperties: false },
);
const RoleIds = Type.Array(Id(), { minItems: 1, maxItems: 20 });

export const listPeople = operation('listPeople', {
  method: 'get',
  path: '/projects/:projectId/people',
  summary: 'The people of a project with company, team and roles',
  access: { kind: 'people', action: 'see' },
  response: Type.Object({
    members: Type.Array(Member),
    parties: Type.Array(Party),
    teams: Type.Array(Team),
    roles: Type.Array(Role),
  }),
});

const PersonToAdd = Type.Object(
  {
    name: Line(100),
    email: Type.String({ format: 'email', maxLength: 200 }),
    party: Type.Optional(PartyToName),
    teamId: Type.Optional(Nullable(Id())),
    roleIds: RoleIds,
    administrator: Type.Optional(Type.Boolean()),
  },
  { additionalProperties: false },
);

export const addPerson = operation('addPerson', {
  costly: true,
  method: 'post',
  path: '/projects/:projectId/people',
  summary: 'Add a person with company, team and roles; someone new is invited by mail',
  access: { kind: 'people', action: 'add' },
  body: PersonToAdd,
  response: Member,
});

export const addPeople = operation('addPeople', {
  largestBody: 1_000_000,
  costly: true,
  method: 'post',
  path: '/projects/:projectId/people/many',
  summary: 'Add many people at once: each for itself, so that one wrong line keeps nobody out',
  access: { kind: 'people', action: 'add' },
  body: Type.Object(
    { people: Type.Array(PersonToAdd, { minItems: 1, maxItems: 500 }) },
    { additionalProperties: false },
  ),
  response: Type.Object({
    /** In the order of what was sent. */
    outcomes: Type.Array(Type.Object({ email: Type.String(), added: Type.Boolean(), problem: Type.String() })),
  }),
});

export const suggestPeople = operation('suggestPeople', {
  method: 'get',
  path: '/projects/:projectId/people/suggestions',
  summary: 'People of your other projects who are not in this one yet',
  access: { kind: 'people', action: 'add' },
  query: Type.Object({ q: Type.String({ minLength: 1, maxLength: 100 }) }, { additionalProperties: false }),
  response: Type.Array(
    Type.Composite([
      Person,
      Type.Object({ party: Nullable(Type.Object({ name: Type.String(), code: Type.String() })) }),
    ]),
  ),
});

export const changePerson = operation('changePerson', {
  method: 'patch',
  path: '/projects/:projectId/people/:memberId',
  summary: 'Change company, team, roles, work areas or administration of a member; it holds from their next request',
  access: { kind: 'people', action: 'change' },
  body: Type.Object(
    {
      party: Type.Optional(PartyToName),
      teamId: Type.Optional(Nullable(Id())),
      roleIds: Type.Optional(RoleIds),
      administrator: Type.Optional(Type.Boolean()),
      workAreas: Type.Optional(WorkAreas),
    },
    { additionalProperties: false },
  ),
  response: Member,
});

export const correctPerson = operation('correctPerson', {
  costly: true,
  method: 'put',
  path: '/projects/:projectId/people/:memberId/address',
  summary:
    'Correct name or address of somebody who was invited and has not come yet; another address gets the invitation',
  access: { kind: 'people', action: 'change' },
  body: Type.Object(
    { name: Line(100), email: Type.String({ format: 'email', maxLength: 200 }) },
    { additionalProperties: false },
  ),
  response: Member,
});

export const changeParty = operation('changeParty', {
  method: 'patch',
  path: '/projects/:projectId/companies/:partyId',
  summary: 'Correct name or code of a company; containers keep the codes that they have',
  access: { kind: 'people', action: 'manage' },
  body: PartyToName,
  response: Party,
});

export const removeParty = operation('removeParty', {
  method: 'delete',
  path: '/projects/:projectId/companies/:partyId',
  summary: 'Remove a company that nobody is of',
  access: { kind: 'people', action: 'manage' },
});

export const inviteAgain = operation('inviteAgain', {
  costly: true,
  method: 'post',
  path: '/projects/:projectId/people/:memberId/invitation',
  summary: 'Send the invitation once more; the earlier link ends',
  access: { kind: 'people', action: 'add' },
});

export const removePerson = operation('removePerson', {
  method: 'post',
  path: '/projects/:projectId/people/:memberId/leaving',
  summary: 'A member leaves: their history stays, their open issues and reviews pass to someone else',
  access: { kind: 'people', action: 'change' },
  body: Type.Object({ successorId: Nullable(Id()) }, { additionalProperties: false }),
  /** How much of each kind of thing was passed on. */
  response: Type.Record(Type.String(), Type.Integer()),
});

export const changeRoles = operation('changeRoles', {
  largestBody: 1_000_000,
  method: 'put',
  path: '/projects/:projectId/roles',
  summary: 'Change, add and remove roles together, all or none; it holds from the next request of whoever has them',
  access: { kind: 'people', action: 'manage' },
  body: Type.Object(
    {
      change: Type.Array(
        Type.Object({ id: Id(), edition: Edition(), name: Line(60), grid: Grid }, { additionalProperties: false }),
        { maxItems: 100 },
      ),
      add: Type.Array(Type.Object({ name: Line(60), grid: Grid }, { additionalProperties: false }), { maxItems: 100 }),
      remove: Type.Array(Type.Object({ id: Id(), edition: Edition() }, { additionalProperties: false }), {
        maxItems: 100,
      }),
    },
    { additionalProperties: false },
  ),
  response: Type.Array(Role),
});

export const checkAccess = operation('checkAccess', {
  method: 'get',
  path: '/projects/:projectId/people/:memberId/explanation',
  summary: 'Why a person may or may not do something, with the rule that decides',
  access: { kind: 'people', action: 'see' },
  query: Type.Object(
    { kind: OneOf(KINDS), action: OneOf(ACTIONS), folderId: Type.Optional(Id()) },
    { additionalProperties: false },
  ),
  response: Type.Object({
    allowed: Type.Boolean(),
    reasons: Type.Array(Type.Object({ says: OneOf(['yes', 'no', 'nothing'] as const), text: Type.String() })),
  }),
});
export type Explanation = Static<typeof checkAccess.response>;

export const addTeam = operation('addTeam', {
  method: 'post',
  path: '/projects/:projectId/teams',
  summary: 'Add a team',
  access: { kind: 'people', action: 'manage' },
  body: Type.Object({ name: Line(80), discipline: Line(80) }, { additionalProperties: false }),
  response: Team,
});

export const changeTeam = operation('changeTeam', {
  method: 'patch',
  path: '/projects/:projectId/teams/:teamId',
  summary: 'Change name, discipline, colour, lead or home folder of a team',
  access: { kind: 'people', action: 'manage' },
  body: Type.Object(
    {
      name: Type.Optional(Line(80)),
      discipline: Type.Optional(Line(80)),
      colour: Type.Optional(Type.String({ pattern: '^#[0-9A-Fa-f]{6}$' })),
      leadId: Type.Optional(Nullable(Id())),
      homeFolderId: Type.Optional(Nullable(Id())),
    },
    { additionalProperties: false },
  ),
  response: Team,
});

export const removeTeam = operation('removeTeam', {
  method: 'post',
  path: '/projects/:projectId/teams/:teamId/removal',
  summary: 'Remove a team: its people, folders, containers and work in progress pass to another one',
  access: 'administrator',
  body: Type.Object({ successorId: Id() }, { additionalProperties: false }),
});

export const listDemoPeople = operation('listDemoPeople', {
  method: 'get',
  path: '/sign-in/demo-people',
  summary: 'The people of a demo installation, with what they are in its first project',
  access: 'public',
  response: Type.Array(
    Type.Object({
      email: Type.String(),
      name: Type.String(),
      initials: Type.String(),
      colour: Type.String(),
      about: Type.String(),
    }),
  ),
});
