/** Projects as a person sees them: what waits for them there, and who is in them right now. */
import { effectiveGrid } from '@kindred/core/people/rights';
import type { ProjectView } from '@kindred/contract/portfolio/portfolio';
import { inArray, sql } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Actor, Member } from '../platform/caller.ts';
import { now } from '../platform/clock.ts';
import { presentIn } from '../platform/presence.ts';
import type { Platform } from '../platform/services.ts';
import { membershipOf } from './parts.ts';
import { projects } from './schema.ts';
import { projectNamed, toProject } from './service.ts';

/** How what is due is called. */
const DUE: Record<string, string> = { issue: 'Issue due', review: 'Review due' };

export async function listProjects(platform: Platform, actor: Actor) {
  const { db, gate, subjects } = platform;
  const members = new Map((await gate.members([actor.id])).map((member) => [member.projectId, member]));
  if (!members.size) return [];
  const ids = [...members.keys()];
  const rows = await db
    .select()
    .from(projects)
    .where(inArray(projects.id, ids))
    .orderBy(sql`${projects.number}, ${projects.name}`);
  const people = await membershipOf(platform).count(db, ids);
  const present = await presentIn(db, ids);
  const persons = await personsById(db, [...present.values()].flat());
  const waiting = new Map(
    await Promise.all([...members].map(async ([id, member]) => [id, await subjects.countWaiting(db, member)] as const)),
  );
  const today = now().toISOString().slice(0, 10);
  return rows.map((row) => {
    const waits = waiting.get(row.id)!;
    const dates = [
      ...waits.flatMap(({ type, days }) => days.map((day) => ({ day, what: DUE[type] ?? 'Due' }))),
      ...(row.finishesOn && row.finishesOn >= today ? [{ day: row.finishesOn, what: 'Project finishes' }] : []),
    ].sort((a, b) => a.day.localeCompare(b.day));
    return {
      ...toProject(row),
      people: people.get(row.id) ?? 0,
      present: (present.get(row.id) ?? []).flatMap((id) => persons.get(id) ?? []),
      nextDate: dates[0] ?? null,
      waiting: waits.reduce((sum, { things }) => sum + things, 0),
    };
  });
}

export async function showProject(platform: Platform, member: Member): Promise<ProjectView> {
  const { db, subjects } = platform;
  const { projectId, standing, teamId, workAreas } = member;
  const project = toProject(await projectNamed(db, projectId));
  const counts = await subjects.countWaiting(db, member);
  await membershipOf(platform).noteVisit(platform, member.memberId);
  return {
    project,
    me: { administrator: standing.administrator, grid: effectiveGrid(standing), teamId, workAreas },
    waiting: Object.fromEntries(counts.map(({ type, things }) => [type, things])),
  };
}
