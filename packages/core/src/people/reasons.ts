/** “Why can she not …?”: the rules that were asked, in their order, and the one that decided. */
import { atLeast, decidingRule, type FolderRule, type Level } from '../register/folder-rights.ts';
import { allows, type Action, type Grid, type Kind, type Right } from './rights.ts';

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
  text: string;
}
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

export function explain(person: PersonFacts, right: Right, folder: FolderFacts | null): Explanation {
  const reasons: Reason[] = [];
  const no = (text: string): Explanation => ({ allowed: false, reasons: [...reasons, { says: 'no', text }] });
  const yes = (text: string): Explanation => ({ allowed: true, reasons: [...reasons, { says: 'yes', text }] });
  const { name } = person;
  if (person.left) return no(`${name} has left the project.`);
  if (person.administrator)
    return yes(`${name} administers the project: administrators may do everything in every folder.`);

  const giving = person.roles.filter(({ grid }) => allows({ administrator: false, grids: [grid] }, right));
  const words = `“${right.action}” for “${right.kind}”`;
  if (!giving.length)
    return no(
      person.roles.length
        ? `None of the roles of ${name} (${person.roles.map((role) => role.name).join(', ')}) has the right ${words}.`
        : `${name} has no role.`,
    );
  reasons.push({ says: 'yes', text: `The role ${giving.map((role) => role.name).join(', ')} has the right ${words}.` });
  if (!folder || !concernsFolders(right.kind)) return { allowed: true, reasons };
  return explainFolder(person, right.action, folder, reasons);
}

const concernsFolders = (kind: Kind): boolean => kind === 'register';

function explainFolder(person: PersonFacts, action: Action, folder: FolderFacts, reasons: Reason[]): Explanation {
  const needed = NEEDED[action];
  const rule = folder.rules.find((one) => one === decidingRule(folder.rules, folder.first));
  if (rule) {
    const where = rule.folderPath === folder.path ? `here` : `on “${rule.folderPath}”, above it,`;
    const text = `A permission ${where} sets “${rule.level}” for ${rule.subjectName}; this needs “${needed}”.`;
    const enough = atLeast(rule.level, needed);
    reasons.push({ says: enough ? 'yes' : 'no', text });
    if (!enough) return { allowed: false, reasons };
  } else
    reasons.push({ says: 'nothing', text: `No permission on “${folder.path}” or above it concerns ${person.name}.` });

  const manages = person.roles.some(({ grid }) => grid.register?.includes('manage'));
  if (needed !== 'see' && folder.team && folder.team.id !== person.team?.id && !manages) {
    const own = person.team ? `${person.name} is in ${person.team.name}` : `${person.name} is in no team`;
    reasons.push({ says: 'no', text: `“${folder.path}” is the home of ${folder.team.name}; ${own}.` });
    return { allowed: false, reasons };
  }
  if (needed === 'see' && folder.team && folder.team.id !== person.team?.id)
    reasons.push({
      says: 'nothing',
      text: `What ${folder.team.name} has here as work in progress stays hidden until it is shared.`,
    });
  return { allowed: true, reasons };
}
