import { mount } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import ElementMenu from './ElementMenu.vue';
import SceneCompass from './SceneCompass.vue';
import SceneOverlay from './SceneOverlay.vue';
import SectionPanel from './SectionPanel.vue';
import type { Cuts } from './engine/sections.ts';

const keys = { global: { directives: { 'arrow-keys': {} } } };

describe('the sections', () => {
  const cuts: Cuts = {
    sections: [
      { at: [0, 0, 5.4], direction: [0, 0, 1] },
      { at: [3, 4, 0], direction: [0.6, 0.8, 0] },
    ],
    box: [0, 0, 0, 1, 1, 1],
  };
  const panel = () =>
    mount(SectionPanel, {
      props: { cuts, rangeOf: () => [0, 10] },
      global: { stubs: { ElSlider: true } },
    });
  const last = (wrapper: ReturnType<typeof panel>): Cuts => wrapper.emitted<[Cuts]>('change')!.at(-1)![0];
  it('are told by their axis and place, or by how far they lie along their direction', () => {
    const lines = panel()
      .findAll('.line')
      .map((line) => line.text());
    expect(lines[0]).toContain('Section Z');
    expect(lines[0]).toContain('5.40 m');
    expect(lines[1]).toContain('Section aslant');
    expect(lines[1]).toContain('5.00 m');
  });
  it('are turned over, pushed and taken away one by one', async () => {
    const wrapper = panel();
    await wrapper.get('[title="Cut away the other side"]').trigger('click');
    expect(last(wrapper).sections[0]).toEqual({ at: [0, 0, 5.4], direction: [0, 0, -1] });
    wrapper.findAllComponents({ name: 'ElSlider' })[1]?.vm.$emit('update:modelValue', 7);
    await wrapper.findAll('[title="Remove the section"]')[0]!.trigger('click');
    expect(last(wrapper).sections).toEqual([cuts.sections[1]]);
    await wrapper.get('[title="Remove the box"]').trigger('click');
    expect(last(wrapper)).toEqual({ ...cuts, box: null });
  });
});

describe('the menu of an element', () => {
  const menu = (name: string | null, mayRaise = true) =>
    mount(ElementMenu, { props: { x: 5, y: 5, name, mayRaise }, attachTo: document.body, ...keys });
  it('names the element and what can be done with it; without one only everything is shown', async () => {
    const wrapper = menu('Door 3');
    expect(wrapper.get('b').text()).toBe('Door 3');
    const isolate = wrapper.findAll('button').find((button) => button.text() === 'Isolate')!;
    await isolate.trigger('click');
    expect(wrapper.emitted('act')).toEqual([['isolate']]);
    expect(
      menu(null)
        .findAll('button')
        .map((button) => button.text()),
    ).toEqual(['Show all']);
    expect(menu('Door', false).text()).not.toContain('Raise issue');
  });
  it('closes by Escape', async () => {
    const wrapper = menu('Door 3');
    window.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }));
    await wrapper.vm.$nextTick();
    expect(wrapper.emitted('close')).toHaveLength(1);
  });
});

it('the rose turns with the camera, and looks from each side', async () => {
  const wrapper = mount(SceneCompass, { props: { heading: Math.PI / 2, trueNorth: 0.4 } });
  expect(wrapper.get('.rose').attributes('style')).toContain('rotate(-90deg)');
  await wrapper.get('[title="Look from the east"]').trigger('click');
  await wrapper.get('[title="Look from above"]').trigger('click');
  expect(wrapper.emitted('look')).toEqual([['east'], ['top']]);
});

describe('what lies over the picture', () => {
  const overlay = (more: object = {}) =>
    mount(SceneOverlay, {
      props: {
        // What lies behind the camera is nowhere on the screen.
        toScreen: ([x, y, z]: readonly [number, number, number]) => (z < 0 ? undefined : ([x * 10, y * 10] as const)),
        drawn: 1,
        measures: [
          {
            kind: 'distance' as const,
            points: [
              [1, 1, 0],
              [3, 1, 0],
            ] as [number, number, number][],
            value: 2,
          },
        ],
        marks: [],
        say: ({ value }: { value: number }) => `${value} m`,
        pending: [],
        aim: null,
        ...more,
      },
    });
  it('writes a measure between its ends, which can be drawn elsewhere', async () => {
    const wrapper = overlay();
    expect(wrapper.get('.measure text').text()).toBe('2 m');
    expect(wrapper.get('.measure text').attributes('x')).toBe('20');
    expect(wrapper.findAll('.movable')).toHaveLength(2);
    const end = wrapper.findAll('.movable')[1]!;
    (end.element as unknown as { setPointerCapture: () => void }).setPointerCapture = () => undefined;
    await end.trigger('pointerdown');
    await wrapper.get('svg').trigger('pointermove', { clientX: 40, clientY: 20 });
    await wrapper.get('svg').trigger('pointerup');
    await wrapper.get('svg').trigger('pointermove', { clientX: 90, clientY: 20 });
    expect(wrapper.emitted('move')).toEqual([[0, 1, { x: 40, y: 20 }]]);
  });
  it('leaves out what lies behind the camera', () => {
    const behind = [{ kind: 'text' as const, points: [[1, 1, -5]], text: 'Behind' }];
    expect(overlay({ marks: behind }).find('.mark').exists()).toBe(false);
  });
  it('draws marks in their form, and says to what one snaps', () => {
    const marks = [
      {
        kind: 'cloud',
        points: [
          [1, 1, 0],
          [9, 5, 0],
        ],
        text: 'Why?',
      },
      {
        kind: 'arrow',
        points: [
          [1, 1, 0],
          [2, 2, 0],
        ],
        text: '',
      },
    ];
    const aim = { kind: 'corner', at: [4, 4, 0], element: 1, face: { at: [4, 4, 0], normal: [0, 0, 1], area: 1 } };
    const wrapper = overlay({ marks, aim, pending: [[1, 1, 0]] });
    expect(wrapper.get('[data-kind="cloud"] path').attributes('d')!.split('A').length).toBeGreaterThan(10);
    expect(wrapper.get('[data-kind="cloud"] text').text()).toBe('Why?');
    expect(wrapper.get('[data-kind="arrow"] path').attributes('marker-end')).toContain('scene-arrow');
    expect(wrapper.get('[data-snap="corner"] text').text()).toBe('corner');
    expect(wrapper.get('path.pending').attributes('d')).toBe('M10.0 10.0 L40.0 40.0');
  });
});
