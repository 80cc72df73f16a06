import { boxes } from '@kindred/core/scene/boxes.fixture';
import type { ElementTable } from '@kindred/core/scene/prepare-model';
import type { ViewpointState } from '@kindred/contract/scene/scene';
import { beforeEach, expect, it, vi } from 'vitest';
import type { LoadedModel } from './models.ts';
import { applyState, cameraText, setCamera, takeState } from './viewpoint-state.ts';

/** Only the graphics card is missing here. */
vi.mock('three', async (original) => (await import('./engine/no-graphics.fixture.ts')).withoutGraphics(original));
const { SceneEngine } = await import('./engine/scene-engine.ts');

const FAR: [number, number, number] = [348_600, 5_912_400, 4];
let engine: InstanceType<typeof SceneEngine>;
let models: LoadedModel[];
beforeEach(() => {
  vi.stubGlobal('requestAnimationFrame', () => 1);
  vi.stubGlobal('matchMedia', () => ({ matches: false }));
  engine = new SceneEngine(document.createElement('canvas'));
  engine.resize(800, 600);
  engine.addModel(
    'one',
    boxes(
      Array.from({ length: 4 }, (_, i) => ({ min: [i * 3, 0, 0], size: [1, 1, 1] })),
      FAR,
    ),
  );
  models = [{ versionId: 'one', slot: 0, table: { globalId: ['a', 'b', 'c', 'd'] } as ElementTable }];
});
const NOTHING = { measures: [], marks: [], colouredBy: null };
const STATE: ViewpointState = {
  camera: {
    position: [FAR[0] + 1, FAR[1] - 20, 9],
    target: [FAR[0] + 1, FAR[1], 5],
    fieldOfView: 42,
  },
  sections: [{ location: [0, 0, 5.2], direction: [0, 0.6, 0.8] }],
  box: [
    [FAR[0], FAR[1], 0],
    [FAR[0] + 9, FAR[1] + 9, 9],
  ],
  hidden: ['b'],
  ghosts: ['c'],
  isolated: ['a', 'c'],
  restAsGhosts: true,
  selection: ['a'],
  colouredBy: { set: '', name: 'Class' },
  measures: [
    {
      kind: 'height',
      points: [
        [1, 2, 3],
        [1, 2, 5],
      ],
      value: 2,
    },
  ],
  marks: [{ kind: 'text', points: [[1, 2, 3]], text: 'Here' }],
};
const rounded = (state: ViewpointState): unknown =>
  JSON.parse(
    JSON.stringify(state, (_, value: unknown) => (typeof value === 'number' ? Math.round(value * 100) / 100 : value)),
  );

it('what a viewpoint keeps comes back, in both projections', () => {
  for (const camera of [STATE.camera, { ...STATE.camera, height: 12.5 }]) {
    const state = { ...STATE, camera };
    applyState(engine, models, state, false);
    const { measures, marks, colouredBy } = STATE;
    const taken = takeState(engine, models, { measures: measures!, marks: marks!, colouredBy: colouredBy! });
    expect(rounded(taken)).toEqual(rounded(state));
  }
});

it('one from before boxes, ghosts and measures were kept still opens; what models lost is left out', () => {
  const { camera, sections } = STATE;
  applyState(engine, models, { camera, sections, hidden: ['gone', 'd'], isolated: null, selection: ['gone'] }, false);
  const taken = takeState(engine, models, NOTHING);
  expect(taken).toMatchObject({ hidden: ['d'], ghosts: [], isolated: null, selection: [], box: null });
  expect(engine.cuts.sections).toHaveLength(1);
});

it('a camera goes into an address and back; what is none is refused', () => {
  applyState(engine, models, STATE, false);
  const text = cameraText(engine);
  expect(text.split(',')).toHaveLength(6);
  engine.home(false);
  expect(cameraText(engine)).not.toBe(text);
  expect(setCamera(engine, text)).toBe(true);
  expect(cameraText(engine)).toBe(text);
  expect(setCamera(engine, `${text},14.00`)).toBe(true);
  expect(cameraText(engine)).toBe(`${text},14.00`);
  for (const wrong of ['', '1,2,3', 'a,b,c,d,e,f', `${text},1,2`]) expect(setCamera(engine, wrong)).toBe(false);
});
