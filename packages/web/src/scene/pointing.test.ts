import { beforeEach, describe, expect, it, vi } from 'vitest';
import { nextTick, shallowRef } from 'vue';
import type { Aim } from './engine/picking.ts';
import type { SceneEngine } from './engine/scene-engine.ts';
import { UNCUT, type Cuts } from './engine/sections.ts';
import { usePointing } from './pointing.ts';
import { CHOOSE } from './tools.ts';

const said: string[] = [];
vi.mock('../platform/say.ts', () => ({ sayProblem: (words: string) => said.push(words) }));

let cuts: Cuts;
/** Everything lies on a floor at height 0, a metre for each pixel. */
const engine = {
  get cuts() {
    return cuts;
  },
  setCuts: (next: Cuts) => (cuts = next),
  aim: (x: number, y: number): Aim | null =>
    x < 0 ? null : { kind: 'face', at: [x, y, 0], element: 1, face: { at: [x, y, 0], normal: [0, 0, 1], area: 12 } },
  along: () => null,
  volumeOf: () => undefined,
} as unknown as SceneEngine;
let words: string | undefined;
const open = () => usePointing(shallowRef(engine), () => Promise.resolve(words));
beforeEach(() => {
  cuts = UNCUT;
  words = 'Look here';
  said.length = 0;
});

describe('pointing', () => {
  it('gathers places until a measure is whole, and says what comes next', async () => {
    const { tool, click, hint, measures, pending } = open();
    tool.value = { act: 'measure', kind: 'distance' };
    await nextTick();
    expect(hint.value).toBe('Point at the first end.');
    await click({ x: -1, y: 0 });
    await click({ x: 1, y: 1 });
    expect([hint.value, pending.value]).toEqual(['Point at the other end.', [[1, 1, 0]]]);
    await click({ x: 4, y: 5 });
    expect(measures.value).toEqual([
      {
        kind: 'distance',
        points: [
          [1, 1, 0],
          [4, 5, 0],
        ],
        value: 5,
      },
    ]);
    expect(pending.value).toEqual([]);
  });

  it('draws the end of a distance elsewhere, and not that of an area', async () => {
    const { tool, click, move, measures } = open();
    tool.value = { act: 'measure', kind: 'distance' };
    await nextTick();
    await click({ x: 0, y: 0 });
    await click({ x: 3, y: 0 });
    move(0, 1, { x: 0, y: 9 });
    expect(measures.value[0]!.value).toBe(9);
    move(0, 1, { x: -1, y: 9 });
    move(7, 1, { x: 1, y: 9 });
    expect(measures.value[0]!.value).toBe(9);
    tool.value = { act: 'measure', kind: 'area' };
    await nextTick();
    await click({ x: 2, y: 2 });
    move(1, 0, { x: 5, y: 5 });
    expect(measures.value[1]).toEqual({ kind: 'area', points: [[2, 2, 0]], value: 12 });
  });

  it('says why there is no measure', async () => {
    const { tool, click, measures } = open();
    tool.value = { act: 'measure', kind: 'volume' };
    await nextTick();
    await click({ x: 2, y: 2 });
    expect([measures.value, said]).toEqual([[], [expect.stringContaining('not closed')]]);
  });

  it('cuts at a face, then chooses again; the seventh section takes the place of the first', async () => {
    const { tool, click } = open();
    for (let i = 0; i < 7; i++) {
      tool.value = { act: 'cut' };
      await nextTick();
      await click({ x: i, y: 0 });
      expect(tool.value).toEqual(CHOOSE);
    }
    expect(cuts.sections.map(({ at }) => at[0])).toEqual([1, 2, 3, 4, 5, 6]);
  });

  it('marks: a line ends when one says so, a text needs words', async () => {
    const { tool, click, finish, marks } = open();
    tool.value = { act: 'mark', kind: 'line' };
    await nextTick();
    for (const x of [1, 2, 3]) await click({ x, y: 0 });
    await finish();
    expect(marks.value).toEqual([
      {
        kind: 'line',
        points: [
          [1, 0, 0],
          [2, 0, 0],
          [3, 0, 0],
        ],
        text: '',
      },
    ]);
    await click({ x: 9, y: 0 });
    await finish();
    expect(marks.value).toHaveLength(1);
    tool.value = { act: 'mark', kind: 'text' };
    await nextTick();
    words = '';
    await click({ x: 9, y: 0 });
    words = undefined;
    await click({ x: 9, y: 0 });
    expect(marks.value).toHaveLength(1);
    words = 'Move this';
    await click({ x: 9, y: 0 });
    expect(marks.value[1]).toEqual({ kind: 'text', points: [[9, 0, 0]], text: 'Move this' });
  });

  it('forgets what was begun when another tool is taken', async () => {
    const { tool, click, pending, hover, aim } = open();
    hover({ x: 1, y: 1 });
    expect(aim.value).toBeNull();
    tool.value = { act: 'measure', kind: 'angle' };
    await nextTick();
    await click({ x: 1, y: 1 });
    hover({ x: 2, y: 2 });
    expect(aim.value?.at).toEqual([2, 2, 0]);
    tool.value = CHOOSE;
    await nextTick();
    expect([pending.value, aim.value]).toEqual([[], null]);
  });
});
