import type { Markup } from '@kindred/contract/markup/markup';
import type { MarkupShape } from '@kindred/core/markup/shapes';
import { mount } from '@vue/test-utils';
import { beforeAll, describe, expect, it } from 'vitest';
import MarkupLayer from './MarkupLayer.vue';

/** The window shows the page at half its size, its corner at 100, 50. */
beforeAll(() => {
  const matrix = { inverse: () => ({}) };
  Object.assign(Element.prototype, { getScreenCTM: () => matrix, setPointerCapture: () => undefined });
  globalThis.DOMPoint = class {
    constructor(
      readonly x: number,
      readonly y: number,
    ) {}
    matrixTransform = () => ({ x: (this.x - 100) * 2, y: (this.y - 50) * 2 });
  } as never;
});

const author = { id: 'p', name: 'Ann', initials: 'AN', colour: '#123456' };
const markup = (shape: MarkupShape, over: Partial<Markup> = {}): Markup =>
  ({ id: 'm1', number: 7, shape, text: 'Check the fall', status: 'ask', draft: false, author, ...over }) as Markup;
const layer = (
  tool: string,
  markups: Markup[] = [],
  pins: { id: string; number: number; x: number; y: number }[] = [],
) => mount(MarkupLayer, { props: { markups, zoom: 0.5, size: [800, 600], tool, selected: 'm1', pins } });
async function drag(wrapper: ReturnType<typeof layer>, [x, y]: number[], [toX, toY]: number[]): Promise<void> {
  const paper = wrapper.find('rect');
  await paper.trigger('pointerdown', { clientX: x, clientY: y, button: 0 });
  await paper.trigger('pointermove', { clientX: toX, clientY: toY });
  await paper.trigger('pointerup', { clientX: toX, clientY: toY });
}

describe('drawing', () => {
  it.each([
    [
      'cloud',
      {
        kind: 'cloud',
        points: [
          [0, 0],
          [200, 100],
        ],
      },
    ],
    [
      'rectangle',
      {
        kind: 'rectangle',
        points: [
          [0, 0],
          [200, 100],
        ],
      },
    ],
    [
      'arrow',
      {
        kind: 'arrow',
        points: [
          [0, 0],
          [200, 100],
        ],
      },
    ],
  ])('a %s stands in points of the page', async (tool, shape) => {
    const wrapper = layer(tool);
    await drag(wrapper, [100, 50], [200, 100]);
    expect(wrapper.emitted('drawn')).toEqual([[shape]]);
  });

  it('a callout points at where it began, its box on the side where the pointer went', async () => {
    const wrapper = layer('callout');
    await drag(wrapper, [200, 150], [150, 100]);
    const [[shape]] = wrapper.emitted('drawn') as [[MarkupShape & { kind: 'callout' }]];
    expect(shape.target).toEqual([200, 200]);
    const [x, y, width, height] = shape.box;
    expect([x + width, y + height]).toEqual([100, 100]);
  });

  it('shows what grows under the pointer, and forgets what is hardly larger than a click', async () => {
    const wrapper = layer('rectangle');
    await wrapper.find('rect').trigger('pointerdown', { clientX: 100, clientY: 50, button: 0 });
    await wrapper.find('rect').trigger('pointermove', { clientX: 150, clientY: 90 });
    expect(wrapper.find('g.markup rect').attributes()).toMatchObject({ width: '100', height: '80' });
    await drag(wrapper, [100, 50], [102, 51]);
    expect(wrapper.emitted('drawn')).toBeUndefined();
    expect(wrapper.find('g.markup').exists()).toBe(false);
  });

  it('leaves the pointer to the sheet while nothing is drawn, and gives an issue its place', async () => {
    const looking = layer('look');
    await drag(looking, [100, 50], [200, 100]);
    expect(looking.emitted()).not.toHaveProperty('drawn');
    const raising = layer('issue');
    await raising.find('rect').trigger('pointerdown', { clientX: 150, clientY: 100, button: 0 });
    expect(raising.emitted('point')).toEqual([[[100, 100]]]);
  });
});

describe('what is there', () => {
  it('carries its number and the sign of its status; drafts are dashed', () => {
    const wrapper = layer('look', [
      markup({
        kind: 'arrow',
        points: [
          [0, 0],
          [10, 40],
        ],
      }),
      markup(
        {
          kind: 'cloud',
          points: [
            [0, 0],
            [90, 90],
          ],
        },
        { id: 'm2', number: 8, draft: true },
      ),
    ]);
    const [one, other] = wrapper.findAll('g.markup');
    expect(one!.text()).toMatch(/^7/);
    expect(one!.classes()).toContain('selected');
    expect(one!.attributes('stroke-dasharray')).toBeUndefined();
    expect(other!.attributes('stroke-dasharray')).toBe('14 8');
  });

  it('sets all words of a callout within its box, however long they are', () => {
    const text =
      'The waterproofing has to go up behind the flashing and be lapped by at least one hundred and fifty '.repeat(3);
    const wrapper = layer('look', [markup({ kind: 'callout', target: [0, 0], box: [300, 200, 190, 52] }, { text })]);
    const lines = wrapper.findAll('tspan');
    expect(lines.map((line) => line.text()).join(' ')).toBe(text.trim());
    const words = wrapper.findAll('text').find((one) => one.find('tspan').exists())!;
    const size = Number(words.attributes('font-size'));
    expect(size).toBeLessThan(22);
    if (size >= 5) expect(lines.length * size * 1.25).toBeLessThanOrEqual(52);
  });

  it('is chosen by a click while one looks', async () => {
    const wrapper = layer(
      'look',
      [
        markup({
          kind: 'rectangle',
          points: [
            [5, 5],
            [1, 1],
          ],
        }),
      ],
      [{ id: 'i1', number: 3, x: 9, y: 9 }],
    );
    const [mark, pin] = wrapper.findAll('g.markup');
    await mark!.trigger('pointerdown');
    await pin!.trigger('pointerdown');
    expect(wrapper.emitted('select')).toEqual([['m1']]);
    expect(wrapper.emitted('pin')).toEqual([['i1']]);
  });
});
