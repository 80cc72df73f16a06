import { flushPromises, mount } from '@vue/test-utils';
import { beforeAll, expect, it } from 'vitest';
import MiniMap from './MiniMap.vue';
import type { SheetView } from './view.ts';

beforeAll(() => {
  const context = new Proxy({}, { get: () => () => undefined, set: () => true });
  Object.assign(HTMLCanvasElement.prototype, { getContext: () => context });
});
const drawn: SheetView[] = [];
const source = {
  size: () => Promise.resolve([1500, 750] as [number, number]),
  draw: (_page: number, view: SheetView) => {
    drawn.push(view);
    return Promise.resolve({ width: 300, height: 150, close: () => undefined } as ImageBitmap);
  },
  layers: () => Promise.resolve([]),
  showLayer: () => Promise.resolve(),
  close: () => undefined,
};
const map = (view: SheetView) =>
  mount(MiniMap, { props: { source, page: 1, size: [1500, 750], view, window: [600, 300] } });

it('shows the part of the sheet that the window has, and goes where somebody clicks', async () => {
  const wrapper = map({ x: -500, y: -250, zoom: 1, turn: 0 });
  await flushPromises();
  expect(drawn).toEqual([{ x: 0, y: 0, zoom: 0.1, turn: 0 }]);
  expect(wrapper.find('i').attributes('style')).toBe('left: 50px; top: 25px; width: 60px; height: 30px;');
  await wrapper.trigger('pointerdown', { clientX: 75, clientY: 30 });
  expect(wrapper.emitted('go')).toEqual([[[750, 300]]]);
});

it('is not there where the whole sheet is seen', () => {
  drawn.length = 0;
  expect(map({ x: 0, y: 0, zoom: 0.4, turn: 0 }).find('.map').exists()).toBe(false);
  expect(drawn).toEqual([]);
});
