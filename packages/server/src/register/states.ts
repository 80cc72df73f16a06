/** Versions change their state, through the gates of their project. */
import type { Container } from '@kindred/contract/register/register';
import { checkName } from '@kindred/core/naming/convention';
import { allows } from '@kindred/core/people/rights';
import { actionsIn, next } from '@kindred/core/platform/machine';
import { gateProblems, STARTER_GATES, type Gates } from '@kindred/core/register/gates';
import { containerTransitions, type ContainerAction } from '@kindred/core/register/states';
import { gateProblem } from '@kindred/words/register';
import { and, eq, inArray, lt, ne, sql } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import type { Db } from '../platform/database.ts';
import { conflict, notAllowed, refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { uuids } from '../platform/subjects.ts';
import { containersOf, refreshEntries, type Entry } from './entries.ts';
import { conventionIn, folderOf } from './folders.ts';
import { entriesToChange } from './versions.ts';
import { projectGates, uses, versions } from './schema.ts';
import { renewShareCopies, requireShareSet } from './share-sets.ts';
import { audience } from './visibility.ts';

export async function showGates(db: Db, projectId: string): Promise<{ gates: Gates; edition: number }> {
  const [row] = await db.select().from(projectGates).where(eq(projectGates.projectId, projectId));
  return row ? { gates: row.gates, edition: row.edition } : { gates: STARTER_GATES, edition: 1 };
}

export async function changeGates(
  platform: Platform,
  actor: Member,
  wanted: { gates: Gates; edition: number },
): Promise<{ gates: Gates; edition: number }> {
  const { projectId } = actor;
  return change(platform, actor, async ({ db, record }) => {
    await db.insert(projectGates).values({ projectId, gates: STARTER_GATES }).onConflictDoNothing();
    const before = await showGates(db, projectId);
    const [row] = await db
      .update(projectGates)
      .set({ gates: wanted.gates, edition: wanted.edition + 1 })
      .where(and(eq(projectGates.projectId, projectId), eq(projectGates.edition, wanted.edition)))
      .returning();
    if (!row) throw conflict('Someone else changed the gates meanwhile. Reload to see theirs, then save again.');
    await record({
      projectId,
      verb: 'gates changed',
      subjectType: 'project',
      subjectId: projectId,
      before: before.gates,
      after: row.gates,
    });
    return { gates: row.gates, edition: row.edition };
  });
}

/** Moves the current versions of all these containers, or none of them. */
export async function moveStates(
  platform: Platform,
  actor: Member,
  wanted: { containerIds: string[]; action: ContainerAction; reason?: string; shareSetId?: string },
): Promise<Container[]> {
  const { projectId } = actor;
  const { containerIds, action, reason = '' } = wanted;
  if ((action === 'withdraw' || action === 'bring back') && !reason.trim())
    throw refused('reason-needed', 'Say why: others rely on it as it is.');
  return change(platform, actor, async (unit) => {
    const { db, record } = unit;
    const rows = await entriesToChange(db, actor, containerIds);
    const { gates } = await showGates(db, projectId);
    const right = gateOf(gates, action)?.right ?? 'manage';
    if (!allows(actor.standing, { kind: 'register', action: right }))
      throw notAllowed(
        `In this project it takes the right to ${right} the register to ${action}. Nothing was changed.`,
      );
    const states = await requirePassage(platform, db, rows, action, gates);
    if (wanted.shareSetId) await requireShareSet(db, actor, wanted.shareSetId);
    for (const [i, row] of rows.entries()) {
      const state = states[i]!;
      await db
        .update(versions)
        .set({ state, ...(action === 'share' && { shareSetId: wanted.shareSetId ?? null }) })
        .where(eq(versions.id, row.versionId));
      await record({
        projectId,
        verb: action === 'bring back' ? 'brought back from the archive' : state,
        subjectType: 'container',
        subjectId: row.containerId,
        before: { version: row.versionNumber, state: row.state },
        after: { version: row.versionNumber, state, ...(reason && { reason }) },
        teamId: action === 'withdraw' ? null : audience({ state }, row.teamId),
      });
    }
    await refreshEntries(db, containerIds);
    if (wanted.shareSetId)
      await renewShareCopies(
        unit,
        inArray(
          versions.id,
          rows.map(({ versionId }) => versionId),
        ),
      );
    if (action === 'share') {
      const now = rows.map(({ versionId: id, containerId, kind }) => ({ id, projectId, containerId, kind }));
      await platform.capabilities.shared(unit, now);
      await tellUsers(unit, actor, rows);
    }
    return containersOf(db, actor, containerIds);
  });
}

/** What is brought back from the archive passes no gate: it is shared, as everybody saw it. */
const gateOf = (gates: Gates, action: ContainerAction) => (action === 'bring back' ? undefined : gates[action]);

/** The state that each would have; refuses all, with a sentence for each that may not pass. */
async function requirePassage(platform: Platform, db: Db, rows: Entry[], action: ContainerAction, gates: Gates) {
  const blocking = await blockersOf(
    platform,
    db,
    rows.map(({ versionId }) => versionId),
  );
  const conventions = new Map<string, Awaited<ReturnType<typeof conventionIn>>>();
  for (const { folderId, projectId } of rows)
    if (!conventions.has(folderId))
      conventions.set(folderId, await conventionIn(db, await folderOf(db, projectId, folderId)));
  const problems: { path: string; message: string }[] = [];
  const states = rows.map((row) => {
    const state = next(containerTransitions, row.state, action);
    const reasons = row.atIntake
      ? ['it waits at the intake: repair its name first']
      : state
        ? gateProblems(gateOf(gates, action), {
            state,
            status: row.status,
            conforms: checkName(conventions.get(row.folderId)!.definition, row.code).ok,
            prepared: row.preparation === 'ready',
            blockingIssues: blocking.get(row.versionId) ?? [],
          }).map(gateProblem)
        : [
            `it is ${row.state}, so it cannot ${action}; possible: ${actionsIn(containerTransitions, row.state).join(', ') || 'nothing'}`,
          ];
    problems.push(...reasons.map((message) => ({ path: row.code, message })));
    return state!;
  });
  if (problems.length) {
    const codes = new Set(problems.map(({ path }) => path));
    const first = problems.slice(0, 3).map(({ path, message }) => `“${path}”: ${message}`);
    throw refused(
      'gate-closed',
      `${codes.size} of ${rows.length} may not ${action}. ${first.join('. ')}${problems.length > 3 ? ' …' : ''}. Nothing was changed.`,
      problems,
    );
  }
  return states;
}

/** People of other teams who took an earlier version hear that a newer one is shared. */
async function tellUsers({ db, tell }: Change, actor: Member, rows: Entry[]): Promise<void> {
  for (const { containerId, code, title, versionNumber, projectId } of rows) {
    const used = await db
      .select()
      .from(uses)
      .where(
        and(
          eq(uses.containerId, containerId),
          lt(uses.versionNumber, versionNumber),
          ...(actor.teamId ? [ne(uses.teamId, actor.teamId)] : []),
        ),
      );
    const people = await personsById(
      db,
      used.map(({ by }) => by),
    );
    for (const { by, versionNumber: taken } of used)
      await tell({
        to: [people.get(by)!],
        projectId,
        kind: 'delivery',
        text: `${title || code}: version ${versionNumber} is shared. You took version ${taken}.`,
        link: `/projects/${projectId}/containers/${containerId}?version=${versionNumber}`,
        letter: `${code}\nShared by ${actor.name}. Your team works with version ${taken}.`,
      });
  }
}

/** Numbers of what keeps each of these versions from passing a gate that asks for it. */
async function blockersOf({ capabilities }: Platform, db: Db, versionIds: string[]): Promise<Map<string, number[]>> {
  const selects = capabilities.blockers(uuids(versionIds));
  if (!selects.length || !versionIds.length) return new Map();
  const { rows } = await db.execute(sql`select version_id as id, array_agg(number order by number) as numbers
    from (${sql.join(selects, sql` union all `)}) b group by version_id`);
  return new Map((rows as unknown as { id: string; numbers: number[] }[]).map(({ id, numbers }) => [id, numbers]));
}
