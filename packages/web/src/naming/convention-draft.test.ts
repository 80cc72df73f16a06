import type { Convention } from '@kindred/contract/naming/naming';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, nextTick, ref, type Ref } from 'vue';

const preview = vi.fn();
vi.mock('../platform/api.ts', () => ({
  call: (...given: unknown[]) => preview(...given) as unknown,
  unlessRefused: <T>(asked: Promise<T>) => asked,
}));
vi.mock('../portfolio/store.ts', () => ({ useProject: () => ({ params: { projectId: 'p' }, may: () => true }) }));
const { useConventionDraft } = await import('./convention-draft.ts');

const convention = (edition: number, name = 'Building', id = 'c'): Convention =>
  ({
    id,
    edition,
    definition: {
      name,
      separator: '-',
      fields: [
        { name: 'Form', kind: 'list', values: [{ code: 'D', meaning: 'Drawing' }] },
        { name: 'Number', kind: 'number', length: 4 },
      ],
    },
  }) as unknown as Convention;
let held: Ref<Convention>;
const draftOf = () => effectScope().run(() => useConventionDraft(held))!;
beforeEach(() => {
  held = ref(convention(1));
  preview.mockReset().mockResolvedValue({ changed: 0 });
});

describe('a draft', () => {
  it('is dirty only while it says something else', () => {
    const { draft, dirty, reset } = draftOf();
    expect(dirty.value).toBe(false);
    draft.value.name = 'Other';
    expect(dirty.value).toBe(true);
    reset();
    expect([dirty.value, draft.value.name]).toEqual([false, 'Building']);
  });

  it('never touches what is held', () => {
    const { draft, setKind, moveField } = draftOf();
    setKind(0, 'pattern');
    moveField(0, 1);
    expect(draft.value.fields.map(({ kind }) => kind)).toEqual(['number', 'pattern']);
    expect(held.value.definition.fields.map(({ kind }) => kind)).toEqual(['list', 'number']);
  });

  it('gives a new field a name that nobody has', () => {
    const { draft, addField } = draftOf();
    draft.value.fields[1]!.name = 'Field 3';
    addField();
    expect(draft.value.fields[2]).toEqual({ name: 'Field 4', kind: 'number', length: 2 });
  });

  it('follows a newer edition while nothing is written, and is overtaken by it otherwise', async () => {
    const { draft, from, overtaken } = draftOf();
    held.value = convention(2, 'Renamed');
    await nextTick();
    expect([draft.value.name, from.value, overtaken.value]).toEqual(['Renamed', 2, false]);
    draft.value.name = 'Mine';
    held.value = convention(3, 'Theirs');
    await nextTick();
    expect([draft.value.name, from.value, overtaken.value]).toEqual(['Mine', 2, true]);
    held.value = convention(1, 'Another', 'd');
    await nextTick();
    expect(draft.value.name).toBe('Another');
  });

  it('asks for its effect once somebody has stopped writing, never for one that has problems', async () => {
    const { draft, effect, problems } = draftOf();
    draft.value.name = 'Fin';
    draft.value.name = 'Finished';
    await vi.waitFor(() => expect(effect.value).toEqual({ changed: 0 }));
    const asked = preview.mock.calls.map(([, { body }]) => (body as { definition: { name: string } }).definition.name);
    expect(asked.filter((name) => name.startsWith('Fin'))).toEqual(['Finished']);
    draft.value.fields = [];
    await nextTick();
    expect(problems.value.length).toBeGreaterThan(0);
    expect(effect.value).toBeUndefined();
  });
});
