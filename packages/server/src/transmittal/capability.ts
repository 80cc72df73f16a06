import { ilike, sql } from 'drizzle-orm';
import type { Capability } from '../platform/capability.ts';
import { containing } from '../platform/like.ts';
import { waitingRows } from '../platform/subjects.ts';
import { transmittalRoutes } from './routes.ts';
import { transmittals } from './schema.ts';
import { transmittalVisibleTo } from './visibility.ts';

export const transmittal: Capability = {
  name: 'transmittal',
  routes: transmittalRoutes,
  blobs: [sql`select sha256 from transmittal_files`],
  subjects: [
    {
      type: 'transmittal',
      keeps: true,
      right: { kind: 'transmittal', action: 'see' },
      from: sql`${transmittals}`,
      id: sql`${transmittals.id}`,
      title: sql`${transmittals.number} || ' ' || ${transmittals.title}`,
      note: sql`'Transmittal'`,
      path: sql`'transmittals/' || ${transmittals.id}`,
      at: sql`${transmittals.sentAt}`,
      inProject: (projectId) => sql`${transmittals.projectId} = ${projectId}`,
      visibleTo: transmittalVisibleTo,
      search: (words) => ({
        where: ilike(transmittals.title, containing(words)),
        best: sql`${transmittals.number} desc`,
      }),
      links: [
        {
          to: 'version',
          touches: (ids) =>
            sql`exists (select 1 from transmittal_files f where f.transmittal_id = ${transmittals.id} and f.version_id = any(${ids}))`,
          idsOf: (id) => sql`select version_id from transmittal_files where transmittal_id = ${id}`,
        },
      ],
      waiting: (member) => [
        waitingRows({
          pile: 'waiting for me',
          type: 'transmittal',
          id: sql`t.id`,
          title: sql`t.number || ' ' || t.title`,
          note: sql`t.reason`,
          path: sql`'transmittals/' || t.id`,
          at: sql`t.sent_at`,
          of: sql`from transmittals t join receipts c on c.transmittal_id = t.id
            where t.project_id = ${member.projectId} and c.user_id = ${member.id} and c.opened_at is null`,
        }),
      ],
    },
  ],
};
