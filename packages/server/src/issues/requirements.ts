/** What has to hold before anything of an issue is saved. */
import type { raiseIssue as operation } from '@kindred/contract/issues/issues';
import type { IssueElement } from '@kindred/contract/issues/ties';
import type { Body } from '@kindred/contract/platform/operation';
import type { IssueSettings } from '@kindred/core/issues/settings';
import { contacts } from '../people/service.ts';
import type { Member } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import { refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { allVisible } from '../register/versions.ts';
import { contactsBehind } from './responsible.ts';
import type { IssueRow } from './rows.ts';
import { contactsSeeing } from './telling.ts';

type Wanted = Body<typeof operation>;
export interface Which {
  type: string;
  id: string;
}

/** Words that the project does not have would be found by no filter. */
export function requireKnown(settings: IssueSettings, { type, priority, labels = [] }: Partial<Wanted>): void {
  const refuse = (what: string, word: string, known: readonly string[]) =>
    refused(
      'unknown-word',
      `This project has no ${what} “${word}”. ${known.length ? `It has: ${known.join(', ')}. ` : ''}Nothing was saved.`,
    );
  const types = settings.types.map(({ name }) => name);
  const priorities = settings.priorities.map(({ name }) => name);
  if (type !== undefined && !types.includes(type)) throw refuse('type of issue', type, types);
  if (priority !== undefined && !priorities.includes(priority)) throw refuse('priority', priority, priorities);
  const label = labels.find((one) => !settings.labels.includes(one));
  if (label !== undefined) throw refuse('label', label, settings.labels);
}

export async function requireMembers(db: Db, { projectId }: Member, ids: readonly string[]): Promise<void> {
  const wanted = new Set(ids);
  if (wanted.size && (await contacts(db, projectId, [...wanted])).length < wanted.size)
    throw refused('not-a-member', 'Somebody named here is not in this project. Nothing was saved.');
}

export async function requireElements(db: Db, actor: Member, elements: readonly IssueElement[]): Promise<void> {
  await allVisible(
    db,
    actor,
    elements.map(({ versionId }) => versionId),
  );
}

/** Each is there, and the actor sees it. */
export async function requireThings(
  { db, subjects }: Platform,
  actor: Member,
  things: readonly Which[],
): Promise<void> {
  for (const { type, id } of things) await subjects.titleOf(db, actor, type, id);
}

/** Whoever shall answer has to see what it is about. */
export async function requireSeen(db: Db, row: IssueRow, { responsible }: Pick<Wanted, 'responsible'>): Promise<void> {
  if (!responsible) return;
  const behind = await contactsBehind(db, row.projectId, responsible);
  if (!behind.length || (await contactsSeeing(db, row, behind)).length) return;
  const who = responsible.kind === 'person' ? behind[0]!.name : `Nobody of this ${responsible.kind}`;
  throw refused(
    'not-seen',
    `${who} ${responsible.kind === 'person' ? 'does not see' : 'sees'} the place of this issue: it lies on work in progress, in a folder, or on a sheet that is not shared with them. Share it first, or ask somebody else. Nothing was saved.`,
  );
}
