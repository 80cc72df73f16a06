import { ilike, sql } from 'drizzle-orm';
import type { Capability } from '../platform/capability.ts';
import { containing } from '../platform/like.ts';
import { federationRoutes } from './routes.ts';
import { federations } from './schema.ts';

export const federation: Capability = {
  name: 'federation',
  routes: federationRoutes,
  subjects: [
    {
      type: 'federation',
      right: { kind: 'scene', action: 'see' },
      from: sql`${federations}`,
      id: sql`${federations.id}`,
      title: sql`${federations.name}`,
      note: sql`'Federation'`,
      path: sql`'federations?federation=' || ${federations.id}`,
      at: sql`${federations.at}`,
      inProject: (projectId) => sql`${federations.projectId} = ${projectId}`,
      visibleTo: () => undefined,
      search: (words) => ({ where: ilike(federations.name, containing(words)) }),
    },
  ],
};
