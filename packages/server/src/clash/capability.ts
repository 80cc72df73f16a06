import { eq, ilike, sql } from 'drizzle-orm';
import type { Capability } from '../platform/capability.ts';
import { containing } from '../platform/like.ts';
import { versions } from '../register/schema.ts';
import { clashRoutes } from './routes.ts';
import { clashJobs } from './running.ts';
import { runRulesWith } from './runs.ts';
import { clashRules } from './schema.ts';

export const clash: Capability = {
  name: 'clash',
  routes: clashRoutes,
  work: clashJobs,
  /** One that was shared before it was ready takes part from now on. */
  prepared: async (unit, { id, kind, containerId }) => {
    if (kind !== 'model') return;
    const [now] = await unit.db.select({ state: versions.state }).from(versions).where(eq(versions.id, id));
    if (now?.state !== 'work in progress') await runRulesWith(unit, [containerId]);
  },
  placed: (unit, containerId) => runRulesWith(unit, [containerId]),
  shared: (unit, versions) =>
    runRulesWith(
      unit,
      versions.flatMap(({ kind, containerId }) => (kind === 'model' ? [containerId] : [])),
    ),
  subjects: [
    {
      type: 'clash rule',
      right: { kind: 'scene', action: 'see' },
      from: sql`${clashRules}`,
      id: sql`${clashRules.id}`,
      title: sql`${clashRules.name}`,
      note: sql`'Clashes'`,
      path: sql`'clashes/' || ${clashRules.id}`,
      at: sql`${clashRules.at}`,
      inProject: (projectId) => sql`${clashRules.projectId} = ${projectId}`,
      visibleTo: () => undefined,
      search: (words) => ({ where: ilike(clashRules.name, containing(words)) }),
      links: [
        {
          to: 'issue',
          touches: (ids) =>
            sql`exists (select 1 from clashes met where met.rule_id = ${clashRules.id} and met.issue_id = any(${ids}))`,
          idsOf: (id) => sql`select distinct issue_id from clashes where rule_id = ${id} and issue_id is not null`,
        },
      ],
    },
  ],
};
