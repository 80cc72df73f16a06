/** What is written back to a letter about an issue becomes a comment, a letter to a project an issue. */
import { usualPriority } from '@kindred/core/issues/settings';
import { allows } from '@kindred/core/people/rights';
import type { Member } from '../platform/caller.ts';
import type { Letter } from '../platform/capability.ts';
import { change } from '../platform/change.ts';
import { notAllowed } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { commentWithin } from './comments.ts';
import { raiseIssue } from './raising.ts';
import { linkTo } from './rows.ts';
import { settingsOf } from './settings.ts';

const LONGEST_COMMENT = 10_000;

export async function receiveLetter(
  platform: Platform,
  from: Member,
  { about, subject, text }: Letter,
): Promise<string | undefined> {
  if (about && about.type !== 'issue') return undefined;
  if (!allows(from.standing, { kind: 'issues', action: 'add' }))
    throw notAllowed('You may not write about issues in this project. Nothing was sent.');
  const words = text.slice(0, LONGEST_COMMENT);
  if (about) {
    await change(platform, from, (unit) => commentWithin(unit, from, about.id, { text: words, byMail: true }));
    return linkTo({ projectId: from.projectId, id: about.id });
  }
  const settings = await settingsOf(platform.db, from.projectId);
  const { id } = await raiseIssue(platform, from, {
    ...{ title: subject.trim(), description: words },
    ...{ type: settings.types[0]!.name, priority: usualPriority(settings) },
  });
  return linkTo({ projectId: from.projectId, id });
}
