/** What is wrong with pasted people, and why somebody may or may not do something. */
import type { PasteProblem } from '@kindred/core/people/paste';
import type { Values } from '@kindred/core/platform/coded-error';
import type { Reason } from '@kindred/core/register/check-access';
import { sentence, type Say } from './sentence.ts';

const unknown =
  (what: string): Say =>
  ({ name, nearest }) =>
    `there is no ${what} “${name}”${nearest ? `; nearest is ${nearest}` : ''}`;

const PASTED: Record<string, Say> = {
  'name-missing': () => 'the name is missing',
  'name-too-long': ({ longest }) => `the name is longer than ${longest} characters`,
  'no-address': ({ address }) => `“${address}” is not an e-mail address`,
  'address-missing': () => 'the e-mail address is missing',
  'member-already': () => 'is in this project already',
  'address-twice': ({ line }) => `the same address stands in line ${line}`,
  'company-code': ({ company }) => `“${company}” is new here and needs a code of 2 to 6 letters or digits`,
  'unknown-team': unknown('team'),
  'unknown-role': unknown('role'),
  'role-missing': () => 'no role is given',
};
/** Why a line cannot be added; empty where it can. */
export const pasteProblems = (problems: readonly PasteProblem[]): string =>
  problems.map(({ code, values }) => sentence(PASTED, code, values)).join('; ');

const list = (names: Values[string] | undefined): string => (names as readonly string[]).join(', ');
const right = ({ action, kind }: Values): string => `“${action}” for “${kind}”`;
const permission = (where: string, { level, subjectName, needed }: Values): string =>
  `A permission ${where} sets “${level}” for ${subjectName}; this needs “${needed}”.`;

const REASONS: Record<Reason['code'], Say> = {
  left: ({ name }) => `${name} has left the project.`,
  administrator: ({ name }) => `${name} administers the project: administrators may do everything in every folder.`,
  'no-role-gives': (values) =>
    `None of the roles of ${values.name} (${list(values.roles)}) has the right ${right(values)}.`,
  'no-role': ({ name }) => `${name} has no role.`,
  'role-gives': (values) => `The role ${list(values.roles)} has the right ${right(values)}.`,
  'permission-here': (values) => permission('here', values),
  'permission-above': (values) => permission(`on “${values.folderPath}”, above it,`, values),
  'no-permission': ({ path, name }) => `No permission on “${path}” or above it concerns ${name}.`,
  'other-teams-home': ({ path, home, name, team }) =>
    `“${path}” is the home of ${home}; ${team ? `${name} is in ${team}` : `${name} is in no team`}.`,
  'work-in-progress-hidden': ({ team }) => `What ${team} has here as work in progress stays hidden until it is shared.`,
};
export const accessReason = ({ code, values }: Reason): string => REASONS[code](values);
