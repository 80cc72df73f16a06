import { mount } from '@vue/test-utils';
import type { PlacedElement } from '@kindred/core/plan/storey-plan';
import { expect, it } from 'vitest';
import ScenePins from '../scene/ScenePins.vue';
import PlanOverlay from './PlanOverlay.vue';
import StoreyPlan from './StoreyPlan.vue';
import { outlineOf } from './outline.ts';

const wall: PlacedElement = { row: 0, class: 'IfcWall', bounds: [10, 20, 0, 18, 20.3, 3] };
const door: PlacedElement = { row: 1, class: 'IfcDoor', bounds: [12, 20, 0, 13, 20.3, 2] };

it('outlines are the boxes from above', () => {
  expect(outlineOf([wall], ([x, y]) => [x, -y])).toBe('M10 -20L18 -20L18 -20.3L10 -20.3Z');
});

it('walls alone lie over the sheet, moved with it', () => {
  const map = { a: 0.1, b: 0, c: 0, d: 0 };
  const wrapper = mount(PlanOverlay, {
    props: { elements: [wall, door], map, view: { x: 5, y: 6, zoom: 2, turn: 0 } },
  });
  const path = wrapper.find('path');
  expect(path.attributes('d')).toBe('M100 -200L180 -200L180 -203L100 -203Z');
  expect(path.attributes('transform')).toBe('matrix(2 0 0 2 5 6)');
});

it('a click on the storey names a place, caught by the corner of a wall where one is near', async () => {
  // One pixel is a centimetre; x 0 of the window is 10 m of the model.
  const wrapper = mount(StoreyPlan, { props: { elements: [wall, door], points: [[12, 21]], asks: true } });
  const svg = wrapper.find('svg');
  Object.assign(svg.element, { getScreenCTM: () => ({ a: 100, d: 100, e: -1000, f: 3000 }) });
  await svg.trigger('click', { clientX: 6, clientY: 1004 });
  await svg.trigger('click', { clientX: 400, clientY: 900 });
  expect(wrapper.emitted('point')).toEqual([[[10, 20]], [[14, 21]]]);
  expect(wrapper.findAll('.point')).toHaveLength(1);
  await wrapper.setProps({ asks: false });
  await svg.trigger('click', { clientX: 6, clientY: 1004 });
  expect(wrapper.emitted('point')).toHaveLength(2);
});

it('pins stand where their places are seen, and open; what is behind the camera has none', async () => {
  const wrapper = mount(ScenePins, {
    props: {
      pins: [
        { id: 'a', number: 3, at: [1, 2, 3] },
        { id: 'b', number: 4, at: [9, 9, 9] },
      ],
      toScreen: (at: readonly number[]) => (at[0] === 1 ? ([40, 50] as const) : undefined),
      drawn: 1,
    },
  });
  const [pin, ...others] = wrapper.findAll('.pin');
  expect(others).toEqual([]);
  expect(pin!.attributes('style')).toContain('translate(40px, 50px)');
  await pin!.trigger('click');
  expect(wrapper.emitted('open')).toEqual([['a']]);
});
