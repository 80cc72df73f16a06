import type { Role } from '@kindred/contract/people/people';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { nextTick, reactive } from 'vue';

const people = reactive({ data: { roles: [] as Role[] }, members: [] as unknown[] });
vi.mock('./store.ts', () => ({ usePeople: () => people }));
const { useRoleDrafts } = await import('./role-drafts.ts');

const role = (id: string, name: string, register: ('see' | 'add')[], edition = 1) =>
  ({ id, name, edition, grid: { register }, members: 0 }) as unknown as Role;
const draftNamed = (drafts: ReturnType<typeof useRoleDrafts>, name: string) =>
  drafts.drafts.value.find((draft) => draft.name === name)!;

beforeEach(() => {
  people.data = { roles: [role('1', 'Author', ['see', 'add']), role('2', 'Reader', ['see'])] };
});

describe('roles under the pen', () => {
  it('are changed together when they are chosen together, and go out as one change', () => {
    const drafts = useRoleDrafts();
    expect(drafts.dirty.value).toBe(false);
    drafts.choose(draftNamed(drafts, 'Author'));
    drafts.choose(draftNamed(drafts, 'Reader'));
    drafts.setRight(draftNamed(drafts, 'Reader'), 'markup', 'see');
    expect(drafts.changes.value.change.map(({ id, edition, grid }) => [id, edition, grid.markup])).toEqual([
      ['1', 1, ['see']],
      ['2', 1, ['see']],
    ]);
    drafts.choose(draftNamed(drafts, 'Author'));
    drafts.setRight(draftNamed(drafts, 'Author'), 'markup', 'see');
    expect(drafts.changes.value.change.map(({ id }) => id)).toEqual(['2']);
    drafts.discard();
    expect(drafts.dirty.value).toBe(false);
  });

  it('never take a name that is there already', () => {
    const drafts = useRoleDrafts();
    drafts.add('reader', {});
    drafts.add('Reader', {});
    expect(drafts.drafts.value.map(({ name }) => name)).toEqual(['Author', 'Reader', 'reader 2', 'Reader 3']);
    expect(drafts.changes.value.add).toHaveLength(2);
  });

  it('of a file take the place of those with the same name', () => {
    const drafts = useRoleDrafts();
    drafts.bring([
      { name: 'READER', grid: { register: ['see', 'add'] } },
      { name: 'Guest', grid: {} },
    ]);
    expect(drafts.changes.value.change).toMatchObject([
      { id: '2', name: 'Reader', grid: { register: ['see', 'add'] } },
    ]);
    expect(drafts.changes.value.add).toEqual([{ name: 'Guest', grid: {} }]);
  });

  it('stay while others save something else, which comes in', async () => {
    const drafts = useRoleDrafts();
    drafts.replace(draftNamed(drafts, 'Reader'), { name: 'Viewer' });
    people.data = { roles: [role('1', 'Author', ['see'], 2), role('2', 'Reader', ['see'])] };
    await nextTick();
    expect(draftNamed(drafts, 'Author').grid).toEqual({ register: ['see'] });
    expect(drafts.changes.value.change.map(({ id, name }) => [id, name])).toEqual([['2', 'Viewer']]);
  });

  it('that are taken away are said, with the edition that was seen', () => {
    const drafts = useRoleDrafts();
    drafts.remove(draftNamed(drafts, 'Reader'));
    expect(drafts.changes.value.remove).toEqual([{ id: '2', edition: 1 }]);
  });
});
