import type { ModelPlace } from '@kindred/contract/federation/federations';
import { mount } from '@vue/test-utils';
import { expect, it } from 'vitest';
import PlacesDrawing from './PlacesDrawing.vue';

const place = (
  bounds: [number, number, number, number, number, number],
  over: Partial<ModelPlace> = {},
): ModelPlace => ({
  ...{
    containerId: 'c',
    position: { lengthUnit: 'metre', survey: null, bounds },
    findings: [],
    placing: null,
    set: null,
  },
  ...over,
});

it('draws models from above, where one would lie, and names what is too far off to be drawn', () => {
  const drawing = mount(PlacesDrawing, {
    props: {
      places: [
        { name: 'House', place: place([5, 10, 0, 65, 30, 12]) },
        {
          name: 'Turned',
          place: place([-30, 5, 0, -10, 65, 12], {
            findings: [{ code: 'turned', values: { degrees: 270 } }],
            placing: { turn: 270, shift: [0, 0, 0] },
          }),
        },
        {
          name: 'Far',
          place: place([9e5, 9e5, 0, 9.1e5, 9.1e5, 9], { findings: [{ code: 'far', values: { metres: 1e6 } }] }),
        },
      ],
    },
  });
  expect(drawing.findAll('g title').map((title) => title.text())).toEqual(['House', 'Turned']);
  const after = drawing.find('rect.after');
  expect(['x', 'y', 'width', 'height'].map((name) => Math.round(Number(after.attributes(name))))).toEqual([
    5, -30, 60, 20,
  ]);
  expect(drawing.text()).toContain('Not in the drawing: Far');
  expect(
    drawing
      .find('svg')
      .attributes('viewBox')!
      .split(' ')
      .every((value) => Math.abs(Number(value)) < 200),
  ).toBe(true);
});
