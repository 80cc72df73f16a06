import { checkAccess as check, type Explanation as Checked } from '@kindred/core/register/check-access';
import type { Right } from '@kindred/core/people/rights';
import type { Explanation } from '@kindred/contract/people/people';
import { accessReason } from '@kindred/words/people';
import type { Member } from '../platform/caller.ts';
import { requireRow } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { allPermissions, folderOf } from './folders.ts';
import { listPeople } from '../people/service.ts';

/** Whether somebody may do something, and the rules that decide it. */
export async function checkAccess(
  platform: Platform,
  actor: Member,
  memberId: string,
  { folderId, ...right }: Right & { folderId?: string },
): Promise<Explanation> {
  const { db } = platform;
  const { projectId } = actor;
  const { members, roles, teams } = await listPeople(platform, projectId);
  const member = requireRow(
    members.filter(({ id }) => id === memberId),
    'person',
  );
  const facts = {
    name: member.person.name,
    left: member.leftAt !== null,
    administrator: member.administrator,
    roles: roles.filter(({ id }) => member.roles.some((role) => role.id === id)),
    team: member.team,
  };
  if (!folderId) return said(check(facts, right, null));
  const folder = await folderOf(db, projectId, folderId);
  const subjects = new Map([
    [member.id, facts.name],
    ...(member.team ? [[member.team.id, `the team ${member.team.name}`] as const] : []),
    ...(member.party ? [[member.party.id, `the company ${member.party.name}`] as const] : []),
    ...member.roles.map(({ id, name }) => [id, `the role ${name}`] as const),
  ]);
  const rules = (await allPermissions(db, projectId)).flatMap((rule) => {
    const subjectName = subjects.get(rule.subjectId);
    return subjectName ? [{ ...rule, subjectName }] : [];
  });
  const team = teams.find(({ id }) => id === folder.teamId) ?? null;
  return said(check(facts, right, { path: folder.path, first: folder.first, team, rules }));
}

const said = ({ allowed, reasons }: Checked): Explanation => ({
  allowed,
  reasons: reasons.map((reason) => ({ says: reason.says, text: accessReason(reason) })),
});
