import { nearestCode } from '../platform/nearest.ts';
import type { Values } from '../platform/coded-error.ts';
import { readCsv } from '../platform/csv.ts';

/** What a pasted line may refer to. */
export interface KnownNames {
  roles: readonly { id: string; name: string }[];
  teams: readonly { id: string; name: string }[];
  companies: readonly { name: string; code: string }[];
  /** Addresses of people who are in the project already. */
  emails: ReadonlySet<string>;
}

export interface PastedPerson {
  line: number;
  name: string;
  email: string;
  company: string;
  code: string;
  teamId: string | null;
  roleIds: string[];
  /** Why the line cannot be added; empty when it can. */
  problems: PasteProblem[];
}

export interface PasteProblem {
  code: string;
  values: Values;
}

const EMAIL = /^[^\s@<>,;"]+@[^\s@<>,;"]+\.[^\s@<>,;".]+$/;
const MOST_LINES = 2000;

/**
 * Lines that a person pasted: name, e-mail, company, its code, team, roles, with tabs, semicolons or commas between,
 * as from a spreadsheet; or `Name <address>` as from a mail. Missing roles become `roleId`.
 */
export function readPeople(text: string, known: KnownNames, roleId: string | null): PastedPerson[] {
  const seen = new Map<string, number>();
  return linesOf(text)
    .slice(0, MOST_LINES)
    .flatMap((cells, i) => {
      if (i === 0 && cells.some((cell) => /^(?:full )?name$|^person$|^e-?mail/i.test(cell))) return [];
      return [readPerson(cells, i + 1, known, roleId, seen)];
    });
}

function linesOf(text: string): string[][] {
  const addresses = /^([^<>]*)<([^<>\s@]+@[^<>\s@]+)>[,;]?$/;
  const lines = text
    .split(/\r?\n|(?<=>)[,;]/)
    .map((line) => line.trim())
    .filter(Boolean);
  if (lines.length && lines.every((line) => addresses.test(line)))
    return lines.map((line) => {
      const [, name = '', email = ''] = addresses.exec(line)!;
      return [name.replaceAll('"', '').trim(), email];
    });
  return readCsv(text).map((cells) => cells.map((cell) => cell.trim()));
}

function readPerson(
  cells: string[],
  line: number,
  known: KnownNames,
  roleId: string | null,
  seen: Map<string, number>,
): PastedPerson {
  // People paste the address first as often as the name.
  const [name = '', address = '', company = '', code = '', team = '', roles = ''] =
    cells[0]?.includes('@') && !cells[1]?.includes('@') ? [cells[1] ?? '', cells[0], ...cells.slice(2)] : cells;
  const email = address.toLowerCase();
  const problems: PasteProblem[] = [];
  const say = (problem: string, values: Values = {}): void => void problems.push({ code: problem, values });
  if (!name) say('name-missing');
  else if (name.length > 100) say('name-too-long', { longest: 100 });
  if (!EMAIL.test(email)) say(email ? 'no-address' : 'address-missing', { address });
  else if (known.emails.has(email)) say('member-already');
  else if (seen.has(email)) say('address-twice', { line: seen.get(email)! });
  else seen.set(email, line);

  const listed = known.companies.find((one) => same(one.name, company) || (!company && same(one.code, code)));
  const companyCode = listed?.code ?? code.toUpperCase();
  if (company && !listed && !/^[A-Z0-9]{2,6}$/.test(companyCode)) say('company-code', { company });

  const findTeam = team ? known.teams.find((one) => same(one.name, team)) : undefined;
  if (team && !findTeam) say('unknown-team', unknownName(team, known.teams));
  const roleIds: string[] = [];
  for (const word of roles
    .split(/[+/|&]/)
    .map((part) => part.trim())
    .filter(Boolean)) {
    const role = known.roles.find((one) => same(one.name, word));
    if (role) roleIds.push(role.id);
    else say('unknown-role', unknownName(word, known.roles));
  }
  if (!roles && roleId) roleIds.push(roleId);
  if (!roleIds.length && !roles) say('role-missing');
  return {
    line,
    name,
    email,
    company: listed?.name ?? company,
    code: company || listed ? companyCode : '',
    teamId: findTeam?.id ?? null,
    roleIds: [...new Set(roleIds)],
    problems,
  };
}

const same = (a: string, b: string): boolean => b !== '' && a.localeCompare(b, 'en', { sensitivity: 'base' }) === 0;

/** A name that is not known, with the one that it is nearest to. */
function unknownName(name: string, known: readonly { name: string }[]): Values {
  const nearest = nearestCode(
    known.map((one) => one.name),
    name,
  );
  return { name, ...(nearest && { nearest }) };
}
