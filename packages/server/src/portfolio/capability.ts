import { sql } from 'drizzle-orm';
import type { Capability } from '../platform/capability.ts';
import { portfolioRoutes } from './routes.ts';
import { projects } from './schema.ts';

export const portfolio: Capability = {
  name: 'portfolio',
  routes: portfolioRoutes,
  subjects: [
    {
      type: 'project',
      from: sql`${projects}`,
      id: sql`${projects.id}`,
      title: sql`${projects.name}`,
      note: sql`${projects.number}`,
      path: sql`'details'`,
      at: sql`${projects.createdAt}`,
      inProject: (projectId) => sql`${projects.id} = ${projectId}`,
      visibleTo: () => undefined,
    },
  ],
};
