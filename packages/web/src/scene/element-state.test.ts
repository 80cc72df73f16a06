import { expect, it } from 'vitest';
import { shallowRef } from 'vue';
import { useElementState, type Painter } from './element-state.ts';

const at = (row: number) => ({ model: 'm', row });
function stage(elements = 5) {
  const [selected, visible] = [new Set<number>(), new Set(Array.from({ length: elements }, (_, row) => row))];
  const set = (rows: Set<number>) => (ref: { row: number }, on: boolean) =>
    void (on ? rows.add(ref.row) : rows.delete(ref.row));
  const painter = shallowRef<Painter>({ setSelected: set(selected), setVisible: set(visible) });
  const state = useElementState(painter, () => Array.from({ length: elements }, (_, row) => at(row)));
  return { state, selected, visible };
}

it('a selection replaces the one before, or grows and shrinks by what is added', () => {
  const { state, selected } = stage();
  state.select([at(1)]);
  state.select([at(2)]);
  expect([...selected]).toEqual([2]);
  state.select([at(3)], true);
  state.select([at(2)], true);
  expect([...selected]).toEqual([3]);
  expect(state.selection.value).toEqual([at(3)]);
});

it('what is hidden is selected no more, and stays hidden among what is isolated', () => {
  const { state, selected, visible } = stage();
  state.select([at(1), at(2)]);
  state.hide([at(1)]);
  expect(selected.size).toBe(0);
  state.isolate([at(1), at(2)]);
  expect([...visible]).toEqual([2]);
  state.showAll();
  expect(visible.size).toBe(5);
});

it('a group is hidden while any of it is shown, and shown when none is', () => {
  const { state, visible } = stage();
  state.hide([at(0)]);
  state.toggle([at(0), at(1)]);
  expect([...visible]).toEqual([2, 3, 4]);
  state.toggle([at(0), at(1)]);
  expect(visible.size).toBe(5);
});

it('a viewpoint sets all of it', () => {
  const { state, selected, visible } = stage();
  state.hide([at(4)]);
  state.apply({ hidden: [at(0)], isolated: [at(0), at(1)], selection: [at(1)] });
  expect([[...visible], [...selected]]).toEqual([[1], [1]]);
});
