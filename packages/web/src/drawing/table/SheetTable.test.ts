import { flushPromises, mount } from '@vue/test-utils';
import { ref } from 'vue';
import { beforeAll, beforeEach, expect, it, vi } from 'vitest';
import SheetTable from './SheetTable.vue';
import type { SheetView } from './view.ts';

vi.mock('@vueuse/core', async (original) => ({
  ...(await original<object>()),
  useElementSize: () => ({ width: ref(832), height: ref(632) }),
}));
beforeAll(() => {
  const nothing = () => undefined;
  const context = new Proxy({}, { get: () => nothing, set: () => true });
  Object.assign(HTMLCanvasElement.prototype, { getContext: () => context });
  Object.assign(Element.prototype, { setPointerCapture: nothing });
});

const drawn: { page: number; view: SheetView; signal: AbortSignal }[] = [];
beforeEach(() => void (drawn.length = 0));
const source = (width: number, height: number) => ({
  size: () => Promise.resolve([width, height] as [number, number]),
  draw: (page: number, view: SheetView, _size: unknown, _ratio: number, signal: AbortSignal) => {
    drawn.push({ page, view, signal });
    return Promise.resolve({ width: 10, height: 10, close: () => undefined } as ImageBitmap);
  },
  layers: () => Promise.resolve([]),
  showLayer: () => Promise.resolve(),
  close: () => undefined,
});
async function open(pans = true, width = 1600, height = 600) {
  const wrapper = mount(SheetTable, { props: { source: source(width, height), page: 1, pans } });
  await flushPromises();
  const view = (): SheetView => (wrapper.emitted('update:view')!.at(-1) as [SheetView])[0];
  return { wrapper, view };
}
const finger = (pointerId: number, clientX: number, clientY: number) => ({
  pointerId,
  clientX,
  clientY,
  button: 0,
  pointerType: 'touch',
});

it('shows the whole page in the middle when it opens, sharp first, then the overview', async () => {
  const { wrapper, view } = await open();
  expect(view()).toEqual({ zoom: 0.5, x: 16, y: 166, turn: 0 });
  expect(wrapper.emitted('ready')).toEqual([[[1600, 600]]]);
  expect(drawn.map(({ view: { zoom } }) => zoom)).toEqual([0.5, 2200 / 1600]);
});

it('is moved by hand while one looks, and left alone while one draws', async () => {
  for (const pans of [true, false]) {
    const { wrapper, view } = await open(pans);
    const before = view();
    await wrapper.trigger('pointerdown', { clientX: 10, clientY: 10, button: 0, pointerId: 1 });
    await wrapper.trigger('pointermove', { clientX: 30, clientY: 5, pointerId: 1 });
    await wrapper.trigger('pointerup', { pointerId: 1 });
    await wrapper.trigger('pointermove', { clientX: 300, clientY: 300, pointerId: 1 });
    expect(view()).toEqual(pans ? { ...before, x: before.x + 20, y: before.y - 5 } : before);
  }
});

it('two fingers bring it closer, also while one draws', async () => {
  const { wrapper, view } = await open(false);
  const before = view();
  await wrapper.trigger('pointerdown', finger(1, 400, 300));
  await wrapper.trigger('pointermove', finger(1, 420, 300));
  expect(view()).toEqual(before);
  await wrapper.trigger('pointerdown', finger(2, 520, 300));
  await wrapper.trigger('pointermove', finger(2, 620, 300));
  expect(view().zoom).toBeCloseTo(before.zoom * 2);
});

it('goes to a box with room around it', async () => {
  const { wrapper, view } = await open();
  (wrapper.vm as unknown as { showBox(box: number[]): void }).showBox([100, 50, 200, 100]);
  const { x, y, zoom } = view();
  expect(x + 200 * zoom).toBeCloseTo(416);
  expect(y + 100 * zoom).toBeCloseTo(316);
  expect(200 * zoom).toBeLessThan(832 / 2);
});

it('gives up the drawing of what is no longer looked at', async () => {
  const { wrapper } = await open();
  const first = drawn[0]!;
  wrapper.unmount();
  expect(first.signal.aborted).toBe(true);
});

it('another page is measured and drawn anew', async () => {
  const { wrapper } = await open();
  await wrapper.setProps({ page: 2 });
  await vi.waitFor(() => expect(drawn.at(-1)!.page).toBe(2));
  expect(wrapper.emitted('ready')).toHaveLength(2);
});
