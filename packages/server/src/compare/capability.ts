import { sql } from 'drizzle-orm';
import type { Capability } from '../platform/capability.ts';
import { containers, versions } from '../register/schema.ts';
import { comparingJobs } from './comparing.ts';
import { comparisonExport } from './export.ts';
import { compareWithNeighbours } from './pairs.ts';
import { compareRoutes } from './routes.ts';
import { comparisons } from './schema.ts';
import { comparisonVisibleTo } from './visibility.ts';

const numberBefore = sql`(select earlier.number from versions earlier where earlier.id = ${comparisons.beforeId})`;

export const compare: Capability = {
  name: 'compare',
  routes: compareRoutes,
  work: comparingJobs,
  longJobs: [comparisonExport],
  prepared: compareWithNeighbours,
  blobs: [sql`select file_sha256 as sha256 from compared_sheets where file_sha256 is not null`],
  subjects: [
    {
      type: 'comparison',
      right: { kind: 'register', action: 'see' },
      from: sql`${comparisons} join ${versions} on ${versions.id} = ${comparisons.afterId} join ${containers} on ${containers.id} = ${versions.containerId}`,
      id: sql`${comparisons.id}`,
      title: sql`'Changes of ' || ${containers.code}`,
      note: sql`'Version ' || ${numberBefore} || ' to ' || ${versions.number}`,
      path: sql`case ${versions.kind} when 'model' then 'models/' else 'sheets/' end || ${versions.containerId} || '/changes?before=' || ${numberBefore} || '&after=' || ${versions.number}`,
      at: sql`${comparisons.askedAt}`,
      inProject: (projectId) => sql`${comparisons.projectId} = ${projectId}`,
      visibleTo: comparisonVisibleTo,
      links: [
        {
          to: 'version',
          touches: (ids) => sql`(${comparisons.afterId} = any(${ids}) or ${comparisons.beforeId} = any(${ids}))`,
          idsOf: (id) => sql`select unnest(array[before_id, after_id]) from comparisons where id = ${id}`,
        },
      ],
    },
  ],
};
