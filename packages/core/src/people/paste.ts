import { nearestCode } from '../naming/convention.ts';
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
  problem: string;
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
  const addresses = /^\s*"?([^"<>\n]*?)"?\s*<([^<>\s]+@[^<>\s]+)>[,;]?\s*$/;
  const lines = text.split(/\r?\n|(?<=>)[,;]\s*/).filter((line) => line.trim());
  if (lines.length && lines.every((line) => addresses.test(line)))
    return lines.map((line) =>
      addresses
        .exec(line)!
        .slice(1, 3)
        .map((cell) => cell.trim()),
    );
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
  const problems: string[] = [];
  if (!name) problems.push('the name is missing');
  else if (name.length > 100) problems.push('the name is longer than 100 characters');
  if (!EMAIL.test(email))
    problems.push(email ? `“${address}” is not an e-mail address` : 'the e-mail address is missing');
  else if (known.emails.has(email)) problems.push('is in this project already');
  else if (seen.has(email)) problems.push(`the same address stands in line ${seen.get(email)}`);
  else seen.set(email, line);

  const listed = known.companies.find((one) => same(one.name, company) || (!company && same(one.code, code)));
  const companyCode = listed?.code ?? code.toUpperCase();
  if (company && !listed && !/^[A-Z0-9]{2,6}$/.test(companyCode))
    problems.push(`“${company}” is new here and needs a code of 2 to 6 letters or digits`);

  const findTeam = team ? known.teams.find((one) => same(one.name, team)) : undefined;
  if (team && !findTeam) problems.push(unknownName('team', team, known.teams));
  const roleIds: string[] = [];
  for (const word of roles
    .split(/[+/|&]/)
    .map((part) => part.trim())
    .filter(Boolean)) {
    const role = known.roles.find((one) => same(one.name, word));
    if (role) roleIds.push(role.id);
    else problems.push(unknownName('role', word, known.roles));
  }
  if (!roles && roleId) roleIds.push(roleId);
  if (!roleIds.length && !roles) problems.push('no role is given');
  return {
    line,
    name,
    email,
    company: listed?.name ?? company,
    code: company || listed ? companyCode : '',
    teamId: findTeam?.id ?? null,
    roleIds: [...new Set(roleIds)],
    problem: problems.join('; '),
  };
}

const same = (a: string, b: string): boolean => b !== '' && a.localeCompare(b, 'en', { sensitivity: 'base' }) === 0;

function unknownName(what: string, word: string, known: readonly { name: string }[]): string {
  const nearest = nearestCode(
    known.map(({ name }) => name),
    word,
  );
  return `there is no ${what} “${word}”${nearest ? `; nearest is ${nearest}` : ''}`;
}
