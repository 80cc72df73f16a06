/** What is written about containers: their metadata, and the names of those at the intake. */
import { allows } from '@kindred/core/people/rights';
import type { Container } from '@kindred/contract/register/register';
import type * as contract from '@kindred/contract/register/register';
import type { Body } from '@kindred/contract/platform/operation';
import { checkName, type Convention } from '@kindred/core/naming/convention';
import { nameFields } from '@kindred/core/naming/decode-name';
import { and, eq, ne, sql } from 'drizzle-orm';
import { requireStatuses } from '../naming/service.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import type { Db } from '../platform/database.ts';
import { notAllowed, requireRow, refused } from '../platform/errors.ts';
import { lockCodes } from '../platform/numbering.ts';
import type { Platform } from '../platform/services.ts';
import { containersOf, refreshEntries, type Entry } from './entries.ts';
import { conventionIn, folderOf } from './folders.ts';
import { entriesToChange, lockContainers, metadataOf, requireLevel, visibleEntries } from './versions.ts';
import { containers, versions } from './schema.ts';
import { audience } from './visibility.ts';

type Edit = Body<typeof contract.editContainers>['edits'][number];
type Repair = Body<typeof contract.repairNames>['repairs'][number];

/** Changes the metadata of current versions, all or none; `before` is what undoes it. */
export async function editContainers(
  platform: Platform,
  actor: Member,
  edits: Edit[],
): Promise<{ containers: Container[]; before: Edit[] }> {
  const ids = edits.map(({ containerId }) => containerId);
  return change(platform, actor, async ({ db, record }) => {
    const rows = new Map((await entriesToChange(db, actor, ids)).map((row) => [row.containerId, row]));
    const before: Edit[] = [];
    await requireStatuses(
      db,
      actor.projectId,
      edits.map(({ containerId, status }) => (status === rows.get(containerId)!.status ? undefined : status)),
    );
    for (const { containerId, ...wanted } of edits) {
      const row = rows.get(containerId)!;
      if (row.state === 'archived')
        throw refused('archived', `“${row.code}” is archived and stays as it is. Nothing was changed.`);
      const kept = metadataOf(row);
      const earlier = Object.fromEntries(Object.keys(wanted).map((key) => [key, kept[key as keyof typeof kept]]));
      before.push({ containerId, ...earlier });
      await db.update(versions).set(wanted).where(eq(versions.id, row.versionId));
      await record({
        projectId: actor.projectId,
        verb: 'described',
        subjectType: 'container',
        subjectId: containerId,
        before: { version: row.versionNumber, ...earlier },
        after: { version: row.versionNumber, ...wanted },
        teamId: audience(row, row.teamId),
      });
    }
    await refreshEntries(db, ids);
    return { containers: await containersOf(db, actor, ids), before };
  });
}

type Outcome = { containerId: string; code: string; problem: string | null; versionOf: string | null };

/** Gives names to files at the intake: the right ones go to the register, the others stay with the reason. */
export async function repairNames(platform: Platform, actor: Member, repairs: Repair[]): Promise<Outcome[]> {
  const { projectId } = actor;
  const codes = repairs.map(({ code }) => code.normalize('NFC'));
  return change(platform, actor, async ({ db, record }) => {
    await lockCodes(db, projectId, codes);
    const ids = repairs.map(({ containerId }) => containerId);
    const taken = await holders(db, projectId, codes, ids);
    await lockContainers(
      db,
      [...ids, ...taken.values()].map((one) => (typeof one === 'string' ? one : one.id)),
    );
    const rows = new Map((await visibleEntries(db, actor, ids)).map((row) => [row.containerId, row]));
    await requireStatuses(
      db,
      projectId,
      repairs.map(({ containerId, status }) => (status === rows.get(containerId)?.status ? undefined : status)),
    );
    const conventions = new Map<string, Promise<Convention>>();
    const conventionOf = (folderId: string): Promise<Convention> => {
      const known = conventions.get(folderId) ?? managedConvention(db, actor, folderId);
      conventions.set(folderId, known);
      return known;
    };
    const outcomes: Outcome[] = [];
    const seen = new Set<string>();
    const refresh: string[] = [];
    for (const [i, repair] of repairs.entries()) {
      const row = rows.get(repair.containerId)!;
      const code = codes[i]!;
      const holder = taken.get(code);
      const folderId = repair.folderId ?? row.folderId;
      const definition = await conventionOf(folderId);
      const problem = problemOf(row, code, checkName(definition, code).ok, seen.has(code), repair, holder);
      outcomes.push({ containerId: holder && !problem ? holder.id : row.containerId, code, problem, versionOf: null });
      if (problem) continue;
      seen.add(code);
      const { title, status, revision, classification, description } = repair;
      await db
        .update(versions)
        .set({ containerId: row.containerId, ...definedOnly({ title, status, revision, classification, description }) })
        .where(eq(versions.id, row.versionId));
      if (holder) {
        await joinLine(db, row.containerId, holder);
        outcomes.at(-1)!.versionOf = code;
      } else
        await db
          .update(containers)
          .set({ code, folderId, fields: nameFields(definition, code), atIntake: false })
          .where(eq(containers.id, row.containerId));
      const subjectId = holder?.id ?? row.containerId;
      refresh.push(subjectId);
      await record({
        projectId,
        verb: 'name repaired',
        subjectType: 'container',
        subjectId,
        before: { code: row.code },
        after: { code },
        teamId: audience(row, row.teamId),
      });
    }
    await refreshEntries(db, refresh);
    return outcomes;
  });
}

/** The convention that holds in a folder which the actor manages. */
export async function managedConvention(db: Db, actor: Member, folderId: string): Promise<Convention> {
  await requireLevel(db, actor, folderId, 'manage');
  return (await conventionIn(db, await folderOf(db, actor.projectId, folderId))).definition;
}

type Holder = { id: string; teamId: string | null; state: string };

/** Containers of the register that bear one of these codes already. */
export async function holders(
  db: Db,
  projectId: string,
  codes: string[],
  except: string[],
): Promise<Map<string, Holder>> {
  const { rows } = await db.execute(sql`
    select c.id, c.team_id as "teamId", c.code, e.state from containers c
    join entries e on e.container_id = c.id and e.audience <> 'others'
    where c.project_id = ${projectId} and c.code = any(${sql.param(codes)}::text[]) and c.id <> all(${`{${except.join()}}`}::uuid[])`);
  return new Map((rows as unknown as (Holder & { code: string })[]).map(({ code, ...holder }) => [code, holder]));
}

function problemOf(
  row: Entry,
  code: string,
  conforms: boolean,
  twice: boolean,
  repair: Repair,
  holder: Holder | undefined,
): string | null {
  if (!row.atIntake) return `“${row.code}” is in the register already; its code stays.`;
  if (!conforms) return `“${code}” does not conform yet.`;
  if (twice) return `“${code}” is given to two files. One of them needs another number.`;
  if (holder && !repair.asVersion)
    return `“${code}” is in the register already. Choose the next free number, or let this file be its next version.`;
  if (holder && holder.teamId !== row.teamId) return `“${code}” belongs to another team. Choose the next free number.`;
  if (holder?.state === 'archived') return `“${code}” is archived and takes no more versions.`;
  return null;
}

/** The versions of a file at the intake go to the end of another container's line. */
async function joinLine(db: Db, intakeId: string, holder: Holder): Promise<void> {
  const [{ lastNumber }] = (await db
    .select({ lastNumber: containers.lastNumber })
    .from(containers)
    .where(eq(containers.id, holder.id))) as [{ lastNumber: number }];
  const moved = await db
    .update(versions)
    .set({ containerId: holder.id, number: sql`${versions.number} + ${lastNumber}` })
    .where(eq(versions.containerId, intakeId))
    .returning();
  await db
    .update(containers)
    .set({ lastNumber: lastNumber + moved.length })
    .where(eq(containers.id, holder.id));
  await db.delete(containers).where(eq(containers.id, intakeId));
}

const definedOnly = <T extends object>(values: T): Partial<T> =>
  Object.fromEntries(Object.entries(values).filter(([, value]) => value !== undefined)) as Partial<T>;

/** Takes a file off the intake for good: it was never part of the register. */
export async function discardIntake(platform: Platform, actor: Member, containerId: string): Promise<void> {
  await change(platform, actor, async ({ db, record }) => {
    await lockContainers(db, [containerId]);
    const row = requireRow(await visibleEntries(db, actor, [containerId]), 'container');
    if (!row.atIntake)
      throw refused('not-at-intake', `“${row.code}” is in the register. Put it into the bin there instead.`);
    if (row.deliveredBy !== actor.id) {
      if (!allows(actor.standing, { kind: 'register', action: 'delete' }))
        throw notAllowed('Files of others are taken off the intake with the right “delete” for the register.');
      await requireLevel(db, actor, row.folderId, 'manage');
    }
    await db.delete(containers).where(and(eq(containers.id, containerId), ne(containers.atIntake, false)));
    await record({
      projectId: actor.projectId,
      verb: 'discarded from the intake',
      subjectType: 'container',
      subjectId: containerId,
      before: { code: row.code, fileName: row.fileName },
      teamId: audience(row, row.teamId),
    });
  });
}
