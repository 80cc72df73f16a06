import type { FurtherPart, SceneEngine } from './engine/scene-engine.ts';
import { beforeEach, expect, it, vi } from 'vitest';
import { shallowRef } from 'vue';
import { useOpenModels } from './open-models.ts';

const broken = new Set<string>();
let waiting: Map<string, () => void>;
vi.mock('./models.ts', () => {
  class Closed extends Error {}
  return {
    Closed,
    prepareToLoad: () => undefined,
    loadModel: (_projectId: string, id: string) => {
      let end: () => void;
      const ended = new Promise<never>((_, reject) => (end = () => reject(new Closed())));
      ended.catch(() => undefined);
      return {
        async part(number: number) {
          const name = number ? `${id}${number}` : id;
          if (broken.has(name)) throw new Error(`${name} is not prepared yet`);
          if (waiting.has(name)) await Promise.race([new Promise<void>((go) => waiting.set(name, go)), ended]);
          return { pack: name, draws: [] };
        },
        table: () => Promise.resolve({ table: id }),
        trees: (part: number) => Promise.resolve({ of: `${id}${part}` }),
        close: () => (done.push(`close ${id}`), end()),
      };
    },
  };
});
const done: string[] = [];
const taken: string[] = [];
/** Every model that is open has further parts 1, 2 and 3 of so many bytes; the first stands where one looks from. */
let weight: number;
const here = new Set<string>();
let openIds: string[];
let eye: readonly [number, number, number];
const partsOf = (version: string): FurtherPart[] =>
  [1, 2, 3].map((part) => ({
    ...{ version, part, elements: 5, bytes: weight, largest: 1, isHere: here.has(`${version}${part}`) },
    bounds: [part * 100, 0, 0, part * 100 + 10, 10, 10],
  }));
const engine = {
  addModel: (id: string) => (openIds.push(id), done.push(`add ${id}`)),
  removeModel: (id: string) => {
    openIds = openIds.filter((one) => one !== id);
    done.push(`remove ${id}`);
  },
  addPart: (id: string, part: number) => (here.add(`${id}${part}`), done.push(`add ${id}${part}`)),
  removePart: (id: string, part: number) => (here.delete(`${id}${part}`), done.push(`remove ${id}${part}`)),
  furtherParts: () => ({ parts: weight ? openIds.flatMap(partsOf) : [], eye }),
  get bytes() {
    return here.size * weight;
  },
  home: () => done.push('home'),
  draw: () => done.push('draw'),
  takeTrees: (id: string, part: number, trees: { of: string }) => taken.push(`${id} ${part} ${trees.of}`),
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
  here.clear();
  [weight, openIds, eye, waiting] = [0, [], [0, 0, 0], new Map()];
  vi.stubGlobal('navigator', { deviceMemory: 1 });
});

it('opens one after the other, and looks at the first as soon as it is there', async () => {
  const { load, models, loading, filling } = open();
  const ends = load(['a', 'b']);
  await ends;
  expect(done).toEqual(['add a', 'home', 'draw', 'add b']);
  expect(models.value.map(({ versionId }) => versionId)).toEqual(['a', 'b']);
  expect(models.value.map(({ slot }) => slot)).toEqual([97, 98]);
  await vi.waitFor(() => expect(filling.value).toBe(false));
  expect(taken).toEqual(['a 0 a0', 'b 0 b0']);
  expect(loading.value).toBe('');
});

it('keeps what stays, takes away what was unticked, draws nothing twice', async () => {
  const { load, models } = open();
  await load(['a', 'b']);
  done.length = 0;
  await Promise.all([load(['b', 'c', 'c']), load(['b', 'c'])]);
  expect(done).toEqual(['remove a', 'close a', 'add c']);
  expect(models.value.map(({ versionId }) => versionId)).toEqual(['b', 'c']);
});

it('says which one could not be opened, and opens the others', async () => {
  broken.add('b');
  const { load, models, problem } = open();
  await load(['a', 'b', 'c']);
  expect(models.value.map(({ versionId }) => versionId)).toEqual(['a', 'c']);
  expect(problem.value).toBe('b is not prepared yet');
});

it('fetches further parts, the largest on the screen first, and the trees when all is drawn', async () => {
  weight = 1e6;
  eye = [205, 5, 5];
  const { load, filling } = open();
  await load(['a']);
  expect(filling.value).toBe(true);
  await vi.waitFor(() => expect(filling.value).toBe(false));
  expect(done.slice(3)).toEqual(['add a2', 'add a1', 'add a3', 'draw']);
  expect(taken).toEqual(['a 0 a0', 'a 2 a2', 'a 1 a1', 'a 3 a3']);
});

it('holds no more than the machine has memory for, and changes far for near when one comes there', async () => {
  weight = 60e6;
  const { load, fill, filling } = open();
  await load(['a']);
  await vi.waitFor(() => expect(filling.value).toBe(false));
  expect([...here]).toEqual(['a1', 'a2']);
  eye = [305, 5, 5];
  await fill();
  expect([...here].sort()).toEqual(['a2', 'a3']);
  expect(done.slice(-2)).toEqual(['add a3', 'draw']);
  done.length = 0;
  await fill();
  expect(done).toEqual([]);
});

it('leaves further parts away where one wants it so, and gives back those that are here', async () => {
  weight = 1e6;
  let only = true;
  const { load, fill, filling } = useOpenModels(
    shallowRef(engine),
    () => 'project',
    (id) => id,
    () => only,
  );
  await load(['a']);
  await vi.waitFor(() => expect(filling.value).toBe(false));
  expect(here.size).toBe(0);
  only = false;
  await fill();
  expect(here.size).toBe(3);
  only = true;
  await fill();
  expect(here.size).toBe(0);
});

it('goes on with other models when one is closed while a part of it is on its way', async () => {
  weight = 1e6;
  waiting.set('a1', () => undefined);
  const { load, filling, problem } = open();
  await load(['a', 'b']);
  expect([...here]).toEqual([]);
  await load(['b']);
  await vi.waitFor(() => expect(filling.value).toBe(false));
  expect([...here]).toEqual(['b1', 'b2', 'b3']);
  expect(problem.value).toBe('');
});

it('says that a part could not be fetched, and tries again when asked', async () => {
  weight = 1e6;
  broken.add('a2');
  const { load, fill, filling, problem } = open();
  await load(['a']);
  await vi.waitFor(() => expect(filling.value).toBe(false));
  expect([[...here], problem.value]).toEqual([['a1'], 'a2 is not prepared yet']);
  broken.clear();
  await fill();
  expect([...here]).toEqual(['a1', 'a2', 'a3']);
});
