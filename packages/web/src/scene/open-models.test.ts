import { beforeEach, expect, it, vi } from 'vitest';
import { shallowRef } from 'vue';
import { useOpenModels } from './open-models.ts';
import type { SceneEngine } from './engine/scene-engine.ts';

const broken = new Set<string>();
vi.mock('./models.ts', () => ({
  loadModel: (_projectId: string, id: string) => ({
    shapes: broken.has(id)
      ? Promise.reject(new Error(`${id} is not prepared yet`))
      : Promise.resolve({ pack: id, draws: [] }),
    table: Promise.resolve({ table: id }),
    trees: () => Promise.resolve({ of: id }),
  }),
}));
const done: string[] = [];
const taken: string[] = [];
const engine = {
  addModel: (id: string) => done.push(`add ${id}`),
  removeModel: (id: string) => done.push(`remove ${id}`),
  home: () => done.push('home'),
  draw: () => done.push('draw'),
  takeTrees: (id: string, trees: { of: string }) => taken.push(`${id} ${trees.of}`),
  models: { slotOf: (id: string) => id.charCodeAt(0) },
} as unknown as SceneEngine;
const open = () =>
  useOpenModels(
    shallowRef(engine),
    () => 'project',
    (id) => `model ${id}`,
  );
beforeEach(() => {
  done.length = taken.length = 0;
  broken.clear();
});

it('opens one after the other, and looks at the first as soon as it is there', async () => {
  const { load, models, loading } = open();
  const ends = load(['a', 'b']);
  await ends;
  expect(done).toEqual(['add a', 'home', 'draw', 'add b']);
  expect(models.value.map(({ versionId }) => versionId)).toEqual(['a', 'b']);
  expect(models.value.map(({ slot }) => slot)).toEqual([97, 98]);
  expect(taken).toEqual(['a a', 'b b']);
  expect(loading.value).toBe('');
});

it('keeps what stays, takes away what was unticked, draws nothing twice', async () => {
  const { load, models } = open();
  await load(['a', 'b']);
  done.length = 0;
  await Promise.all([load(['b', 'c', 'c']), load(['b', 'c'])]);
  expect(done).toEqual(['remove a', 'add c']);
  expect(models.value.map(({ versionId }) => versionId)).toEqual(['b', 'c']);
});

it('says which one could not be opened, and opens the others', async () => {
  broken.add('b');
  const { load, models, problem } = open();
  await load(['a', 'b', 'c']);
  expect(models.value.map(({ versionId }) => versionId)).toEqual(['a', 'c']);
  expect(problem.value).toBe('b is not prepared yet');
});
