import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { draftOfRole, rebaseRoles, type RoleDraft, type SavedRole } from './role-drafts.ts';
import { ACTIONS, KINDS, type Grid } from './rights.ts';
import { sameGrid } from './roles.ts';

const role = (id: string, name: string, grid: Grid = {}, edition = 1): SavedRole => ({ id, name, grid, edition });
const author = role('a', 'Author', { issues: ['see'] });
const client = role('c', 'Client');

describe('drafts of roles, when somebody else saves meanwhile', () => {
  const mine: RoleDraft[] = [{ ...draftOfRole(author), grid: { issues: ['see', 'add'] } }, draftOfRole(client)];

  it('keep what was written here, on the newest edition, and take the rest from there', () => {
    const theirs = [role('a', 'Author', { issues: ['see'], people: ['see'] }, 2), role('c', 'Client side', {}, 2)];
    expect(rebaseRoles(mine, [author, client], theirs)).toEqual([
      { key: 'a', id: 'a', edition: 2, name: 'Author', grid: { issues: ['see', 'add'] } },
      { key: 'c', id: 'c', edition: 2, name: 'Client side', grid: {} },
    ]);
  });
  it('become new roles when theirs were removed, unless nothing was written', () => {
    expect(rebaseRoles(mine, [author, client], [])).toEqual([{ ...mine[0], id: null, edition: 0 }]);
  });
  it('show roles that were added there', () => {
    const added = role('n', 'New');
    expect(rebaseRoles(mine, [author, client], [author, client, added]).map(({ name }) => name)).toEqual([
      'Author',
      'Client',
      'New',
    ]);
  });
  it('keep a role away that was removed here', () => {
    expect(rebaseRoles([mine[0]!], [author, client], [author, { ...client, edition: 2 }]).map(({ id }) => id)).toEqual([
      'a',
    ]);
  });
});

const grid: fc.Arbitrary<Grid> = fc.dictionary(fc.constantFrom(...KINDS), fc.subarray([...ACTIONS]));
const roles = fc
  .array(fc.tuple(fc.stringMatching(/^[a-z]{1,5}$/), grid), { maxLength: 6 })
  .map((list) => list.map(([name, one], i) => role(String(i), name, one)));

it('drafts that nobody touched become exactly what was saved', () => {
  fc.assert(
    fc.property(roles, roles, (before, now) => {
      expect(rebaseRoles(before.map(draftOfRole), before, now)).toEqual(now.map(draftOfRole));
    }),
  );
});

it('what was written is never lost, whatever others save', () => {
  fc.assert(
    fc.property(roles, roles, grid, (before, now, written) => {
      fc.pre(before.length > 0 && !sameGrid(before[0]!.grid, written));
      const drafts = before.map((one, i) => ({ ...draftOfRole(one), ...(i === 0 && { grid: written }) }));
      const kept = rebaseRoles(drafts, before, now).find(({ key }) => key === before[0]!.id)!;
      expect(kept).toMatchObject({ name: before[0]!.name, grid: written });
    }),
  );
});
