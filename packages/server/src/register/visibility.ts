import { allows } from '@kindred/core/people/rights';
import { and, eq, isNull, ne, or, sql, type SQL } from 'drizzle-orm';
import type { Member } from '../platform/actor.ts';
import { containers, folders } from './schema.ts';

/**
 * The one condition that every query over containers carries: work in progress is for its own team,
 * the intake for those who manage the register and for whoever delivered, a hidden folder for nobody it is hidden from.
 */
export function visibleTo(actor: Member): SQL | undefined {
  const inProject = eq(containers.projectId, actor.projectId);
  if (actor.standing.administrator) return inProject;
  const team = actor.teamId ? eq(containers.teamId, actor.teamId) : undefined;
  const own = or(ne(containers.state, 'work in progress'), isNull(containers.teamId), team);
  const manages = allows(actor.standing, { kind: 'register', action: 'manage' });
  const intake = manages ? undefined : or(eq(containers.atIntake, false), eq(containers.deliveredBy, actor.id));
  return and(inProject, own, intake, outsideHidden(actor));
}

/** Asked once a query, over folders, whatever the number of containers; not at all where nothing is hidden. */
function outsideHidden(actor: Member): SQL | undefined {
  const hidden = actor.folders.decided.filter(({ level }) => level === 'hidden');
  if (!hidden.length) return undefined;
  const ranges = `{${hidden.map(({ from, to }) => `[${from},${to + 1})`).join()}}`;
  return sql`${containers.folderId} not in (
    select ${folders.id} from ${folders}
    where ${folders.projectId} = ${actor.projectId} and ${folders.first} <@ ${ranges}::int4multirange)`;
}
