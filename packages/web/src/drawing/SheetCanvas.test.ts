import { flushPromises, mount } from '@vue/test-utils';
import fc from 'fast-check';
import { ref } from 'vue';
import { beforeAll, beforeEach, expect, it, vi } from 'vitest';
import SheetCanvas, { type SheetView } from './SheetCanvas.vue';

vi.mock('@vueuse/core', async (original) => ({
  ...(await original<object>()),
  useElementSize: () => ({ width: ref(832), height: ref(632) }),
}));
beforeAll(() => {
  const context = {
    drawImage: () => undefined,
    beginPath: () => undefined,
    rect: () => undefined,
    clip: () => undefined,
  };
  Object.assign(HTMLCanvasElement.prototype, { getContext: () => context });
  Object.assign(Element.prototype, { setPointerCapture: () => undefined });
});

const drawn: { page: number; x: number; y: number; scale: number; signal: AbortSignal }[] = [];
beforeEach(() => void (drawn.length = 0));
const source = (width: number, height: number) => ({
  pages: 2,
  size: () => Promise.resolve([width, height] as [number, number]),
  draw: (page: number, _canvas: unknown, x: number, y: number, scale: number, signal: AbortSignal) => {
    drawn.push({ page, x, y, scale, signal });
    return Promise.resolve();
  },
  close: () => undefined,
});
async function open(tool = 'look', width = 1600, height = 600) {
  const wrapper = mount(SheetCanvas, { props: { source: source(width, height) as never, page: 1, tool } });
  await flushPromises();
  const view = (): SheetView => (wrapper.emitted('update:view')!.at(-1) as [SheetView])[0];
  return { wrapper, view };
}

it('shows the whole page in the middle when it opens, sharp first, then the overview', async () => {
  const { wrapper, view } = await open();
  expect(view()).toEqual({ zoom: 0.5, x: 16, y: 166 });
  expect(wrapper.emitted('ready')).toEqual([[[1600, 600]]]);
  expect(drawn.map(({ scale }) => scale)).toEqual([0.5, 2200 / 1600]);
});

it('zooms around a point that keeps its place, within sensible bounds', async () => {
  const { wrapper, view } = await open();
  const { zoomAt } = wrapper.vm as unknown as { zoomAt(factor: number, x: number, y: number): void };
  fc.assert(
    fc.property(fc.double({ min: 0.01, max: 100, noNaN: true }), fc.nat(832), fc.nat(632), (factor, x, y) => {
      const before = view();
      zoomAt(factor, x, y);
      const after = view();
      expect((x - after.x) / after.zoom).toBeCloseTo((x - before.x) / before.zoom, 5);
      expect((y - after.y) / after.zoom).toBeCloseTo((y - before.y) / before.zoom, 5);
      expect(after.zoom).toBeGreaterThanOrEqual(0.02);
      expect(after.zoom).toBeLessThanOrEqual(64);
    }),
    { numRuns: 40 },
  );
});

it('is moved by hand while one looks, and left alone while one draws', async () => {
  for (const [tool, moves] of [
    ['look', true],
    ['cloud', false],
  ] as const) {
    const { wrapper, view } = await open(tool);
    const before = view();
    await wrapper.trigger('pointerdown', { clientX: 10, clientY: 10, button: 0, pointerId: 1 });
    await wrapper.trigger('pointermove', { clientX: 30, clientY: 5 });
    await wrapper.trigger('pointerup');
    await wrapper.trigger('pointermove', { clientX: 300, clientY: 300 });
    expect(view()).toEqual(moves ? { ...before, x: before.x + 20, y: before.y - 5 } : before);
  }
});

it('goes to a box with room around it', async () => {
  const { wrapper, view } = await open();
  (wrapper.vm as unknown as { showBox(box: number[]): void }).showBox([100, 50, 200, 100]);
  const { x, y, zoom } = view();
  expect([x + 200 * zoom, y + 100 * zoom]).toEqual([416, 316]);
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
