import { flushPromises, mount } from '@vue/test-utils';
import { beforeAll, expect, it } from 'vitest';
import SheetPages from './SheetPages.vue';

beforeAll(() => {
  const context = new Proxy({}, { get: () => () => undefined, set: () => true });
  Object.assign(HTMLCanvasElement.prototype, { getContext: () => context });
  Object.defineProperty(HTMLElement.prototype, 'clientHeight', { get: () => 600 });
});
const drawn: number[] = [];
const source = {
  size: () => Promise.resolve([1500, 750] as [number, number]),
  draw: (page: number) => {
    drawn.push(page);
    return Promise.resolve({ width: 300, height: 150, close: () => undefined } as ImageBitmap);
  },
  layers: () => Promise.resolve([]),
  showLayer: () => Promise.resolve(),
  close: () => undefined,
};
const sheets = Array.from({ length: 5000 }, (_, i) => ({
  ...{ id: String(i), page: i + 1, label: `A-${i + 1}`, number: `A-${i + 1}`, title: '', revision: '', status: '' },
  ...{ scale: '', date: '', confirmed: true, width: 1500, height: 750 },
  ...{ recognition: 'none' as const, proposed: null },
}));
const pages = (page = 1) =>
  mount(SheetPages, {
    props: { source, sheets, page, open: new Map([[2, { markups: 3, issues: 1 }]]) },
    attachTo: document.body,
  });

it('draws the sheets that are in sight alone, and says what is open on each', async () => {
  const wrapper = pages();
  await flushPromises();
  expect(drawn.length).toBeLessThan(12);
  expect(wrapper.findAll('.sheet')[1]!.text()).toContain('3 open markups · 1 open issue');
  expect(wrapper.findAll('.sheet')[0]!.attributes('aria-current')).toBe('page');
});

it('goes on by arrows and by clicks, and closes by Esc', async () => {
  const wrapper = pages(2);
  await flushPromises();
  await wrapper.find('section').trigger('keydown', { key: 'ArrowDown' });
  await wrapper.find('section').trigger('keydown', { key: 'ArrowUp' });
  await wrapper.findAll('.sheet')[0]!.trigger('click');
  expect(wrapper.emitted('page')).toEqual([[3], [1], [1]]);
  await wrapper.find('section').trigger('keydown', { key: 'Escape' });
  expect(wrapper.emitted('close')).toHaveLength(1);
});
