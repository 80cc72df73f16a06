import { Type, type Static } from '@sinclair/typebox';
import { Person } from '../identity/identity.ts';
import { Id, Line, Moment, Nullable, operation } from '../platform/operation.ts';

export const Party = Type.Object({ id: Id(), name: Type.String(), code: Type.String() });
export type Party = Static<typeof Party>;
export const Team = Type.Object({ id: Id(), name: Type.String(), discipline: Type.String(), colour: Type.String() });
export type Team = Static<typeof Team>;
export const Role = Type.Object({
  id: Id(),
  name: Type.String(),
  grid: Type.Record(Type.String(), Type.Array(Type.String())),
});
export type Role = Static<typeof Role>;

export const Member = Type.Object({
  id: Id(),
  person: Person,
  party: Nullable(Party),
  team: Nullable(Team),
  roles: Type.Array(Type.Object({ id: Id(), name: Type.String() })),
  administrator: Type.Boolean(),
  invited: Type.Boolean(),
  lastVisitAt: Nullable(Moment()),
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

export const addPerson = operation('addPerson', {
  method: 'post',
  path: '/projects/:projectId/people',
  summary: 'Add a person with company, team and roles; someone new is invited by mail',
  access: { kind: 'people', action: 'add' },
  body: Type.Object(
    {
      name: Line(100),
      email: Type.String({ format: 'email', maxLength: 200 }),
      party: Type.Optional(PartyToName),
      teamId: Type.Optional(Nullable(Id())),
      roleIds: RoleIds,
      administrator: Type.Optional(Type.Boolean()),
    },
    { additionalProperties: false },
  ),
  response: Member,
});

export const changePerson = operation('changePerson', {
  method: 'patch',
  path: '/projects/:projectId/people/:memberId',
  summary: 'Change company, team, roles or administration of a member; it holds from their next request',
  access: { kind: 'people', action: 'change' },
  body: Type.Object(
    {
      party: Type.Optional(PartyToName),
      teamId: Type.Optional(Nullable(Id())),
      roleIds: Type.Optional(RoleIds),
      administrator: Type.Optional(Type.Boolean()),
    },
    { additionalProperties: false },
  ),
  response: Member,
});

export const addTeam = operation('addTeam', {
  method: 'post',
  path: '/projects/:projectId/teams',
  summary: 'Add a team',
  access: { kind: 'people', action: 'manage' },
  body: Type.Object({ name: Line(80), discipline: Line(80) }, { additionalProperties: false }),
  response: Team,
});
