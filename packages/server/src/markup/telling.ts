/** News of markups to those whom they concern. */
import { contacts } from '../people/service.ts';
import type { Member } from '../platform/caller.ts';
import type { Change } from '../platform/change.ts';
import type { VisibleVersion } from '../register/versions.ts';
import type { markups } from './schema.ts';

/** `teamId`: the team that alone may hear of it; null for everybody in the project. */
export async function tellOf(
  { db, tell }: Change,
  actor: Member,
  version: VisibleVersion,
  teamId: string | null,
  personIds: readonly (string | null)[],
  { text, letter, row }: { text: string; letter: string; row: Pick<typeof markups.$inferSelect, 'id' | 'page'> },
): Promise<void> {
  const named = [...new Set(personIds.filter((id) => id !== null))];
  const all = await contacts(db, actor.projectId, named);
  const to = all.filter((one) => teamId === null || one.teamId === teamId);
  const link = `/projects/${actor.projectId}/sheets/${version.containerId}?version=${version.number}&page=${row.page}&markup=${row.id}`;
  await tell({ to, projectId: actor.projectId, kind: 'markup', text, link, letter });
}
