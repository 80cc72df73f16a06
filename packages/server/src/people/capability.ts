import { ilike, or, sql } from 'drizzle-orm';
import { users } from '../identity/schema.ts';
import type { Capability } from '../platform/capability.ts';
import { containing } from '../platform/like.ts';
import { peopleRoutes } from './routes.ts';
import { members, parties, roles, teams } from './schema.ts';
import { countPeople, noteVisit } from './service.ts';
import { peopleTemplate } from './template.ts';

const SEE = { kind: 'people', action: 'see' } as const;
const ofTime = sql`now()`;

export const people: Capability = {
  name: 'people',
  routes: peopleRoutes,
  template: peopleTemplate,
  membership: { count: countPeople, noteVisit },
  subjects: [
    {
      type: 'person',
      right: SEE,
      from: sql`${members} join ${users} on ${users.id} = ${members.userId} left join ${parties} on ${parties.id} = ${members.partyId}`,
      id: sql`${users.id}`,
      title: sql`${users.name}`,
      note: sql`coalesce(${parties.name}, ${users.email})`,
      path: sql`'people?person=' || ${users.id}`,
      at: sql`${members.addedAt}`,
      inProject: (projectId) => sql`${members.projectId} = ${projectId}`,
      visibleTo: () => undefined,
      search: (words) => ({
        where: sql`${members.leftAt} is null and ${or(ilike(users.name, containing(words)), ilike(users.email, containing(words)))!}`,
      }),
    },
    {
      type: 'team',
      right: SEE,
      from: sql`${teams}`,
      id: sql`${teams.id}`,
      title: sql`${teams.name}`,
      note: sql`${teams.discipline}`,
      path: sql`'people'`,
      at: ofTime,
      inProject: (projectId) => sql`${teams.projectId} = ${projectId}`,
      visibleTo: () => undefined,
    },
    {
      type: 'role',
      right: SEE,
      from: sql`${roles}`,
      id: sql`${roles.id}`,
      title: sql`${roles.name}`,
      note: sql`''`,
      path: sql`'roles'`,
      at: ofTime,
      inProject: (projectId) => sql`${roles.projectId} = ${projectId}`,
      visibleTo: () => undefined,
    },
  ],
};
