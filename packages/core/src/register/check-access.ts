/** Whether somebody may do something: the rules that were asked, in their order, and the one that decided. */
import { atLeast, decidingRule, type FolderRule, type Level } from './folder-rights.ts';
import type { Values } from '../platform/coded-error.ts';
import { allows, type Action, type Grid, type Right } from '../people/rights.ts';

export interface PersonFacts {
  name: string;
  left: boolean;
  administrator: boolean;
  roles: readonly { name: string; grid: Grid }[];
  team: { id: string; name: string } | null;
}
export interface FolderFacts {
  path: string;
  first: number;
  team: { id: string; name: string } | null;
  /** Permissions that concern the person, with words for their subject and folder. */
  rules: readonly (FolderRule & { subjectName: string; folderPath: string })[];
}
export interface Reason {
  says: 'yes' | 'no' | 'nothing';
  code: ReasonCode;
  values: Values;
}
export type ReasonCode =
  | 'left'
  | 'administrator'
  | 'no-role-gives'
  | 'no-role'
  | 'role-gives'
  | 'permission-here'
  | 'permission-above'
  | 'no-permission'
  | 'other-teams-home'
  | 'work-in-progress-hidden';
export interface Explanation {
  allowed: boolean;
  reasons: Reason[];
}

/** The level of a folder that an act in the register needs. */
const NEEDED: Record<Action, Level> = {
  see: 'see',
  add: 'deliver',
  change: 'deliver',
  delete: 'manage',
  manage: 'manage',
};

/** The level that roles give over the register, before folders narrow it. */
export function registerCeiling(standing: { administrator: boolean; grids: Grid[] }): Level {
  const may = (action: Action): boolean => allows(standing, { kind: 'register', action });
  if (may('manage')) return 'manage';
  if (may('add')) return 'deliver';
  return may('see') ? 'see' : 'hidden';
}

export function checkAccess(person: PersonFacts, right: Right, folder: FolderFacts | null): Explanation {
  const reasons: Reason[] = [];
  const no = (code: ReasonCode, values: Values): Explanation => ({
    allowed: false,
    reasons: [...reasons, { says: 'no', code, values }],
  });
  const { name } = person;
  const { kind, action } = right;
  if (person.left) return no('left', { name });
  if (person.administrator)
    return { allowed: true, reasons: [{ says: 'yes', code: 'administrator', values: { name } }] };

  const giving = person.roles.filter(({ grid }) => allows({ administrator: false, grids: [grid] }, right));
  const named = (roles: readonly { name: string }[]): string[] => roles.map((role) => role.name);
  if (!giving.length)
    return person.roles.length
      ? no('no-role-gives', { name, roles: named(person.roles), kind, action })
      : no('no-role', { name });
  reasons.push({ says: 'yes', code: 'role-gives', values: { roles: named(giving), kind, action } });
  if (!folder || kind !== 'register') return { allowed: true, reasons };
  return checkFolder(person, action, folder, reasons);
}

function checkFolder(person: PersonFacts, action: Action, folder: FolderFacts, reasons: Reason[]): Explanation {
  const needed = NEEDED[action];
  const { name, team } = person;
  const { path } = folder;
  const rule = folder.rules.find((one) => one === decidingRule(folder.rules, folder.first));
  if (rule) {
    const { level, subjectName, folderPath } = rule;
    const enough = atLeast(level, needed);
    reasons.push({
      says: enough ? 'yes' : 'no',
      code: folderPath === path ? 'permission-here' : 'permission-above',
      values: { folderPath, level, subjectName, needed },
    });
    if (!enough) return { allowed: false, reasons };
  } else reasons.push({ says: 'nothing', code: 'no-permission', values: { path, name } });

  const others = folder.team && folder.team.id !== team?.id ? folder.team : null;
  const manages = person.roles.some(({ grid }) => grid.register?.includes('manage'));
  if (needed !== 'see' && others && !manages) {
    const values = { path, home: others.name, name, team: team?.name ?? '' };
    return { allowed: false, reasons: [...reasons, { says: 'no', code: 'other-teams-home', values }] };
  }
  if (needed === 'see' && others)
    reasons.push({ says: 'nothing', code: 'work-in-progress-hidden', values: { team: others.name } });
  return { allowed: true, reasons };
}
