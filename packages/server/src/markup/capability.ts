import { eq, or, sql } from 'drizzle-orm';
import type { Capability } from '../platform/capability.ts';
import { containers, versions } from '../register/schema.ts';
import { pageVisibleTo } from '../register/visibility.ts';
import { markupExport } from './export.ts';
import { markupRoutes } from './routes.ts';
import { markups } from './schema.ts';

export const markup: Capability = {
  name: 'markup',
  routes: markupRoutes,
  longJobs: [markupExport],
  subjects: [
    {
      type: 'markup',
      right: { kind: 'markup', action: 'see' },
      from: sql`${markups} join ${versions} on ${versions.id} = ${markups.versionId} join ${containers} on ${containers.id} = ${versions.containerId}`,
      id: sql`${markups.id}`,
      title: sql`coalesce(nullif(${markups.text}, ''), 'Markup ' || ${markups.number})`,
      note: sql`'Markup, ' || case when ${markups.draft} then 'draft' else ${markups.status} end`,
      path: sql`'sheets/' || ${versions.containerId} || '?page=' || ${markups.page} || '&markup=' || ${markups.id}`,
      at: sql`${markups.createdAt}`,
      inProject: (projectId) => sql`${markups.projectId} = ${projectId}`,
      /** Drafts are their author's alone. */
      visibleTo: (member) =>
        sql`${or(eq(markups.draft, false), eq(markups.authorId, member.id))} and ${pageVisibleTo(member, sql`${markups.page}`)}`,
      links: [
        {
          to: 'version',
          touches: (ids) => sql`${markups.versionId} = any(${ids})`,
          idsOf: (id) => sql`select version_id from markups where id = ${id}`,
        },
      ],
    },
  ],
};
