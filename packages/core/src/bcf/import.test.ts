import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compareTopic, fieldsOf, type BcfFields } from './compare-topic.ts';
import { viewpointOf, type SeenState } from './of-viewpoint.ts';
import { statusFrom } from './status-words.ts';
import { stateFrom } from './to-viewpoint.ts';

const fields = (changes: Partial<BcfFields> = {}): BcfFields => ({
  ...{ title: 'Duct', description: '', type: 'clash', status: 'open', priority: 'high' },
  ...{ assignedTo: '', due: '', labels: '' },
  ...changes,
});

describe('a topic that comes back', () => {
  it('that says what is here changes nothing', () => {
    expect(compareTopic([], fields(), fields())).toEqual([]);
  });
  it('changed there alone is taken, changed on both sides is asked', () => {
    const out = fields();
    expect(compareTopic([out], fields(), fields({ status: 'Closed' }))).toEqual([
      { field: 'status', mine: 'open', theirs: 'Closed', found: 'theirs' },
    ]);
    expect(compareTopic([out], fields({ title: 'Main duct' }), fields({ title: 'Supply duct' }))).toEqual([
      { field: 'title', mine: 'Main duct', theirs: 'Supply duct', found: 'both' },
    ]);
  });
  it('an old file takes nothing back that was changed here since', () => {
    const said = [fields(), fields({ priority: 'low' })];
    expect(compareTopic(said, fields({ priority: 'low' }), fields())).toEqual([]);
    expect(compareTopic([fields()], fields({ priority: 'low' }), fields())).toEqual([]);
  });
  it('what was never said of it is asked', () => {
    expect(compareTopic([], fields(), fields({ due: '2026-12-01' }))[0]).toMatchObject({ found: 'both' });
  });
  it('says the same of a topic however its labels stand and its lines end', () => {
    const topic = {
      title: ' Duct ',
      description: 'a\r\nb',
      type: null,
      status: null,
      priority: null,
      assignedTo: 'A@B.c',
      due: '2026-12-01T00:00:00Z',
      labels: ['b', 'a', 'b '],
    };
    expect(fieldsOf(topic)).toMatchObject({
      title: 'Duct',
      description: 'a\nb',
      assignedTo: 'a@b.c',
      due: '2026-12-01',
      labels: 'a, b',
    });
  });
});

it.each([
  ['Open', 'open'],
  ['In Progress', 'in hand'],
  ['in_progress', 'in hand'],
  ['RESOLVED', 'answered'],
  ['Re-Opened', 'open'],
  ['in hand', 'in hand'],
  ['Closed', 'closed'],
  ['Banana', null],
  [null, null],
])('the status %j means %j', (word, status) => expect(statusFrom(word)).toBe(status));

const metres = fc.double({ min: -1e4, max: 1e4, noNaN: true });
const point = fc.tuple(metres, metres, metres);
const ids = fc.uniqueArray(fc.string({ minLength: 22, maxLength: 22, unit: fc.constantFrom(...'abcXYZ019_$') }), {
  maxLength: 4,
});
const states: fc.Arbitrary<SeenState> = fc.record({
  camera: fc.record({ position: point, target: point, fieldOfView: fc.integer({ min: 5, max: 120 }) }),
  sections: fc.array(fc.record({ location: point, direction: fc.constant<[number, number, number]>([0, 0, 1]) }), {
    maxLength: 6,
  }),
  hidden: ids,
  isolated: fc.constant(null),
  selection: ids,
});

describe('a viewpoint that comes back', () => {
  it('looks from the same place the same way, with the same things', () => {
    fc.assert(
      fc.property(states, (state) => {
        const { position, target } = state.camera;
        fc.pre(Math.hypot(...position.map((value, i) => value - target[i]!)) > 1e-3);
        const back = stateFrom(viewpointOf('guid', state, null))!;
        expect(back.camera.position).toEqual(position);
        expect(back.camera.fieldOfView).toBe(state.camera.fieldOfView);
        const direction = (to: readonly number[]): number[] => {
          const away = to.map((value, i) => value - position[i]!);
          return away.map((value) => value / Math.hypot(...away));
        };
        const [was, is] = [direction(target), direction(back.camera.target)];
        was.forEach((value, i) => expect(is[i]).toBeCloseTo(value, 5));
        expect(back).toMatchObject({ hidden: state.hidden, selection: state.selection, isolated: null });
        expect(back.sections).toEqual(state.sections);
      }),
    );
  });
  it('without a camera there is nothing to look through', () => {
    const bare = viewpointOf(
      'guid',
      {
        camera: { position: [0, 0, 0], target: [1, 0, 0], fieldOfView: 50 },
        sections: [],
        hidden: [],
        isolated: ['A'],
        selection: [],
      },
      null,
    );
    expect(stateFrom({ ...bare, camera: null })).toBeNull();
    expect(stateFrom({ ...bare, camera: { ...bare.camera!, direction: [0, 0, 0] } })).toBeNull();
    expect(stateFrom({ ...bare, camera: { ...bare.camera!, position: [NaN, 0, 0] } })).toBeNull();
    expect(stateFrom(bare)!.isolated).toEqual(['A']);
    expect(stateFrom({ ...bare, camera: { ...bare.camera!, kind: 'orthogonal', scale: 12 } })!.camera).toMatchObject({
      height: 12,
    });
  });
});
