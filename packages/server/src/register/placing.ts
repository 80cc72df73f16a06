/** Where containers of the register stand, and what they are called. */
import type { Container } from '@kindred/contract/register/register';
import { checkName } from '@kindred/core/naming/convention';
import { nameFields } from '@kindred/core/naming/decode-name';
import { eq } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { refused } from '../platform/errors.ts';
import { lockCodes } from '../platform/numbering.ts';
import type { Platform } from '../platform/services.ts';
import { requireFolder } from './deliveries.ts';
import { holders, managedConvention } from './editing.ts';
import { containerOf, containersOf, refreshEntries, type Entry } from './entries.ts';
import { conventionIn, folderOf } from './folders.ts';
import { containers } from './schema.ts';
import { entriesToChange } from './versions.ts';
import { audience } from './visibility.ts';

function requireChangeable({ atIntake, state, code }: Entry): void {
  if (atIntake)
    throw refused('at-intake', `“${code}” waits at the intake: repair its name there. Nothing was changed.`);
  if (state === 'archived')
    throw refused('archived', `“${code}” is archived and stays as it is. Bring it back first. Nothing was changed.`);
}

/** All of them, or none: each name has to conform in the new folder too. */
export async function moveContainers(
  platform: Platform,
  actor: Member,
  { containerIds, folderId }: { containerIds: string[]; folderId: string },
): Promise<Container[]> {
  const { projectId } = actor;
  return change(platform, actor, async ({ db, record }) => {
    const folder = await folderOf(db, projectId, folderId);
    requireFolder(actor, folder);
    const { definition } = await conventionIn(db, folder);
    const rows = await entriesToChange(db, actor, containerIds);
    rows.forEach(requireChangeable);
    const wrong = rows.filter(({ code }) => !checkName(definition, code).ok);
    if (wrong.length)
      throw refused(
        'name-does-not-conform',
        `${wrong.length} of ${rows.length} names do not conform to “${definition.name}”, which holds in “${folder.path}”. Nothing was moved.`,
        wrong.map(({ code }) => ({ path: code, message: `does not conform to “${definition.name}”` })),
      );
    const before = new Map<string, string>();
    for (const row of rows) {
      if (!before.has(row.folderId)) before.set(row.folderId, (await folderOf(db, projectId, row.folderId)).path);
      const teamId = folder.teamId ?? row.teamId;
      await db
        .update(containers)
        .set({ folderId, teamId, fields: nameFields(definition, row.code) })
        .where(eq(containers.id, row.containerId));
      await record({
        projectId,
        verb: 'moved',
        subjectType: 'container',
        subjectId: row.containerId,
        before: { folder: before.get(row.folderId) },
        after: { folder: folder.path },
        teamId: audience(row, teamId),
      });
    }
    await refreshEntries(db, containerIds);
    return containersOf(db, actor, containerIds);
  });
}

/** The code of a container that is in the register already; what was sent keeps the one that it was sent with. */
export async function changeCode(
  platform: Platform,
  actor: Member,
  containerId: string,
  wanted: { code: string; reason: string },
): Promise<Container> {
  const { projectId } = actor;
  const code = wanted.code.normalize('NFC');
  return change(platform, actor, async ({ db, record }) => {
    await lockCodes(db, projectId, [code]);
    const [row] = (await entriesToChange(db, actor, [containerId])) as [Entry];
    requireChangeable(row);
    const definition = await managedConvention(db, actor, row.folderId);
    if (!checkName(definition, code).ok)
      throw refused(
        'name-does-not-conform',
        `“${code}” does not conform to “${definition.name}”. Nothing was changed.`,
      );
    if ((await holders(db, projectId, [code], [containerId])).size)
      throw refused('code-taken', `“${code}” is in the register already. Choose the next free number.`);
    await db
      .update(containers)
      .set({ code, fields: nameFields(definition, code) })
      .where(eq(containers.id, containerId));
    await record({
      projectId,
      verb: 'code repaired',
      subjectType: 'container',
      subjectId: containerId,
      before: { code: row.code },
      after: { code, reason: wanted.reason },
      teamId: audience(row, row.teamId),
    });
    await refreshEntries(db, [containerId]);
    return containerOf(db, actor, containerId);
  });
}
