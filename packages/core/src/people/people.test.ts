import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readPeople, type KnownNames } from './paste.ts';
import { checkAccess, type FolderFacts, type PersonFacts } from '../register/check-access.ts';
import { ACTIONS, allows, KINDS, RIGHTS, type Grid } from './rights.ts';
import { affectedBy, readRoles, sameGrid, tidyGrid, withRight, writeRoles } from './roles.ts';

const grid: fc.Arbitrary<Grid> = fc.dictionary(fc.constantFrom(...KINDS), fc.subarray([...ACTIONS]));

describe('pasted people', () => {
  const known: KnownNames = {
    roles: [
      { id: 'r1', name: 'Author' },
      { id: 'r2', name: 'Reviewer' },
    ],
    teams: [{ id: 't1', name: 'Structure' }],
    companies: [{ name: 'Ternvale Architects', code: 'TVA' }],
    emails: new Set(['here@a.example']),
  };
  const read = (text: string) => readPeople(text, known, 'r1');

  it('come from a spreadsheet with a head line', () => {
    const [one, two] = read(
      'Name\tE-mail\tCompany\tCode\tTeam\tRoles\nAnn Bole\tAnn@A.example\tNew Firm\tnfi\tstructure\tAuthor + Reviewer\nBo Cane\tbo@a.example\tternvale architects\n',
    );
    expect(one).toMatchObject({
      line: 2,
      name: 'Ann Bole',
      email: 'ann@a.example',
      company: 'New Firm',
      code: 'NFI',
      teamId: 't1',
      roleIds: ['r1', 'r2'],
      problems: [],
    });
    expect(two).toMatchObject({ company: 'Ternvale Architects', code: 'TVA', roleIds: ['r1'], problems: [] });
  });
  it('come from the line of a mail', () => {
    expect(read('Ann Bole <ann@a.example>, Bo Cane <bo@a.example>').map(({ name, email }) => [name, email])).toEqual([
      ['Ann Bole', 'ann@a.example'],
      ['Bo Cane', 'bo@a.example'],
    ]);
  });
  it('with the address first', () => {
    expect(read('ann@a.example,Ann Bole')[0]).toMatchObject({ name: 'Ann Bole', problems: [] });
  });
  it.each([
    ['Ann,not-an-address', 'no-address', { address: 'not-an-address' }],
    [',ann@a.example', 'name-missing', {}],
    ['Ann,', 'address-missing', { address: '' }],
    ['Ann,here@a.example', 'member-already', {}],
    ['Ann,a@a.example,New Firm', 'company-code', { company: 'New Firm' }],
    ['Ann,a@a.example,,,Structur', 'unknown-team', { name: 'Structur', nearest: 'Structure' }],
    ['Ann,a@a.example,,,,Autor', 'unknown-role', { name: 'Autor', nearest: 'Author' }],
  ])('%s is explained', (line, code, values) => {
    expect(read(line)[0]!.problems).toContainEqual({ code, values });
  });
  it('500 lines with duplicates: each address is taken once', () => {
    const lines = Array.from({ length: 500 }, (_, i) => `Person ${i},p${i % 400}@a.example`);
    const people = read(lines.join('\n'));
    expect(people).toHaveLength(500);
    expect(people.filter(({ problems }) => !problems.length)).toHaveLength(400);
    expect(people[400]!.problems).toEqual([{ code: 'address-twice', values: { line: 1 } }]);
  });
  it('never throw, whatever is pasted', () => {
    fc.assert(fc.property(fc.string({ unit: 'binary', maxLength: 300 }), (text) => void read(text)));
  });
});

describe('roles', () => {
  it('come back from their file as they went', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.tuple(fc.stringMatching(/^[a-z]{1,8}$/), grid), { selector: ([name]) => name, minLength: 1 }),
        (pairs) => {
          const roles = pairs.map(([name, one]) => ({ name, grid: tidyGrid(one) }));
          expect(readRoles(writeRoles(roles))).toEqual(roles);
        },
      ),
    );
  });
  it.each([
    ['{', 'not-json'],
    ['{"roles":[]}', 'no-roles'],
    ['null', 'no-roles'],
    ['{"format":"kindred-sheet-roles","roles":[{"name":"A","grid":{"moon":["see"]}}]}', 'unknown-kind'],
    ['{"format":"kindred-sheet-roles","roles":[{"name":"A","grid":{"people":["eat"]}}]}', 'unknown-action'],
    ['{"format":"kindred-sheet-roles","roles":[{"name":"A","grid":{}},{"name":"a","grid":{}}]}', 'role-twice'],
  ])('the file %s is refused, and why', (text, words) => {
    expect(() => readRoles(text)).toThrow(expect.objectContaining({ code: words }));
  });
  it('to see is a condition of all else', () => {
    fc.assert(
      fc.property(
        grid,
        fc.constantFrom(...KINDS.flatMap((kind) => RIGHTS[kind].map((action) => [kind, action] as const))),
        fc.boolean(),
        (one, [kind, action], given) => {
          const after = withRight(tidyGrid(one), kind, action, given);
          expect(after[kind]?.includes(action) ?? false).toBe(given);
          if (given && RIGHTS[kind].includes('see')) expect(after[kind]).toContain('see');
          if (action === 'see' && !given) expect(after[kind]).toBeUndefined();
        },
      ),
    );
  });
  it('who is affected gains and loses exactly what differs', () => {
    fc.assert(
      fc.property(grid, grid, grid, (before, after, other) => {
        const members = [
          { id: 'm', administrator: false, roles: [{ id: 'a' }, { id: 'b' }] },
          { id: 'boss', administrator: true, roles: [{ id: 'a' }] },
        ];
        const roles = (one: Grid) => [
          { id: 'a', name: 'A', grid: one },
          { id: 'b', name: 'B', grid: other },
        ];
        const affected = affectedBy(members, roles(before), roles(after));
        expect(affected.every(({ memberId }) => memberId === 'm')).toBe(true);
        const { gains = [], loses = [] } = affected[0] ?? {};
        for (const kind of KINDS)
          for (const action of RIGHTS[kind]) {
            const right = { kind, action };
            const [was, will] = [before, after].map((one) =>
              allows({ administrator: false, grids: [one, other] }, right),
            );
            expect(gains.some((gain) => gain.kind === kind && gain.action === action)).toBe(!was && will);
            expect(loses.some((loss) => loss.kind === kind && loss.action === action)).toBe(was && !will);
          }
        if (sameGrid(before, after)) expect(affected).toEqual([]);
      }),
    );
  });
});

describe('check access', () => {
  const author = { name: 'Author', grid: { register: ['see', 'add'] } as Grid };
  const she: PersonFacts = {
    name: 'Petra',
    left: false,
    administrator: false,
    roles: [author],
    team: { id: 't', name: 'Structure' },
  };
  const folder: FolderFacts = { path: 'Tender', first: 5, team: null, rules: [] };
  const deliver = { kind: 'register', action: 'add' } as const;
  const last = (
    person: PersonFacts,
    where: FolderFacts | null,
    right = deliver as { kind: 'register' | 'people'; action: 'add' | 'see' },
  ) => {
    const { allowed, reasons } = checkAccess(person, right, where);
    const { code, values } = reasons.at(-1)!;
    return [allowed, code, values] as const;
  };
  it('names the role that is missing', () => {
    expect(last(she, null, { kind: 'people', action: 'add' })).toEqual([
      false,
      'no-role-gives',
      { name: 'Petra', roles: ['Author'], kind: 'people', action: 'add' },
    ]);
    expect(last({ ...she, roles: [] }, null)).toEqual([false, 'no-role', { name: 'Petra' }]);
  });
  it('names the permission that decides, and where it is set', () => {
    const rules = [
      {
        first: 2,
        last: 9,
        subject: 'team' as const,
        subjectId: 't',
        level: 'see' as const,
        subjectName: 'the team Structure',
        folderPath: 'Shared',
      },
    ];
    expect(last(she, { ...folder, rules })).toEqual([
      false,
      'permission-above',
      { folderPath: 'Shared', level: 'see', subjectName: 'the team Structure', needed: 'deliver' },
    ]);
    expect(checkAccess(she, { kind: 'register', action: 'see' }, { ...folder, rules }).allowed).toBe(true);
  });
  it('names the team whose home it is', () => {
    expect(last(she, { ...folder, team: { id: 'o', name: 'Services' } })).toEqual([
      false,
      'other-teams-home',
      { path: 'Tender', home: 'Services', name: 'Petra', team: 'Structure' },
    ]);
  });
  it('says yes to administrators and no to who has left', () => {
    expect(last({ ...she, administrator: true, roles: [] }, folder)[0]).toBe(true);
    expect(last({ ...she, left: true, administrator: true }, folder)[0]).toBe(false);
  });
});
