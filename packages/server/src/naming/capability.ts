import { sql } from 'drizzle-orm';
import type { Capability } from '../platform/capability.ts';
import { namingRoutes } from './routes.ts';
import { conventions } from './schema.ts';
import { namingTemplate } from './template.ts';

export const naming: Capability = {
  name: 'naming',
  routes: namingRoutes,
  template: namingTemplate,
  subjects: [
    {
      type: 'convention',
      right: { kind: 'register', action: 'see' },
      from: sql`${conventions}`,
      id: sql`${conventions.id}`,
      title: sql`(${conventions.definition} ->> 'name')`,
      note: sql`'edition ' || ${conventions.edition}`,
      path: sql`'naming?convention=' || ${conventions.id}`,
      at: sql`now()`,
      inProject: (projectId) => sql`${conventions.projectId} = ${projectId}`,
      visibleTo: () => undefined,
    },
  ],
};
