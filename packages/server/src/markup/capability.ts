import { OPEN_MARKUP_STATUSES } from '@kindred/core/markup/shapes';
import { and, eq, inArray, or, sql } from 'drizzle-orm';
import type { Capability } from '../platform/capability.ts';
import { containers, versions } from '../register/schema.ts';
import { pageVisibleTo, versionVisibleTo } from '../register/visibility.ts';
import { waitingRows } from '../platform/subjects.ts';
import { carryMarkups } from './carrying.ts';
import { markupExport } from './export.ts';
import { markupImport } from './import.ts';
import { markupRoutes } from './routes.ts';
import { markupSetExport } from './set-export.ts';
import { markups } from './schema.ts';

const from = sql`${markups} join ${versions} on ${versions.id} = ${markups.versionId} join ${containers} on ${containers.id} = ${versions.containerId}`;

export const markup: Capability = {
  name: 'markup',
  routes: markupRoutes,
  longJobs: [markupExport, markupSetExport, markupImport],
  prepared: carryMarkups,
  blobs: [
    sql`select picture_sha256 as sha256 from markups where picture_sha256 is not null`,
    sql`select picture_sha256 as sha256 from stamps where picture_sha256 is not null`,
    // What was sent to be read stays until it has been.
    sql`select data ->> 'sha256' as sha256 from long_jobs where kind = 'markup import'`,
  ],
  passOn: async ({ db }, { projectId, fromId, toId }) => {
    const rows = await db
      .update(markups)
      .set({ assigneeId: toId })
      .where(
        and(
          eq(markups.projectId, projectId),
          eq(markups.assigneeId, fromId),
          inArray(markups.status, [...OPEN_MARKUP_STATUSES]),
        ),
      )
      .returning({ id: markups.id });
    return { markups: rows.length };
  },
  subjects: [
    {
      type: 'markup',
      right: { kind: 'markup', action: 'see' },
      from,
      id: sql`${markups.id}`,
      title: sql`coalesce(nullif(${markups.text}, ''), 'Markup ' || ${markups.number})`,
      note: sql`'Markup, ' || case when ${markups.draft} then 'draft' else ${markups.status} end`,
      path: sql`'sheets/' || ${versions.containerId} || '?page=' || ${markups.page} || '&markup=' || ${markups.id}`,
      at: sql`${markups.createdAt}`,
      inProject: (projectId) => sql`${markups.projectId} = ${projectId}`,
      /** Drafts are their author's alone. */
      visibleTo: (member) =>
        sql`${or(eq(markups.draft, false), eq(markups.authorId, member.id))} and ${pageVisibleTo(member, sql`${markups.page}`)}`,
      waiting: (member) => [
        waitingRows({
          pile: 'waiting for me',
          type: 'markup',
          id: sql`${markups.id}`,
          title: sql`coalesce(nullif(${markups.text}, ''), 'Markup ' || ${markups.number})`,
          note: sql`'markup, ' || ${markups.status}`,
          path: sql`'sheets/' || ${versions.containerId} || '?version=' || ${versions.number} || '&page=' || ${markups.page} || '&markup=' || ${markups.id}`,
          dueOn: sql`${markups.dueOn}`,
          at: sql`${markups.updatedAt}`,
          of: sql`from ${from} where ${markups.projectId} = ${member.projectId} and ${markups.assigneeId} = ${member.id}
            and ${inArray(markups.status, [...OPEN_MARKUP_STATUSES])} and not ${markups.draft}
            and not exists (select 1 from markups later where later.carried_from = ${markups.id})
            and ${versionVisibleTo(member)} and ${pageVisibleTo(member, sql`${markups.page}`)}`,
        }),
      ],
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
