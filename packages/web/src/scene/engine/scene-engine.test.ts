import { boxes } from '@kindred/core/scene/boxes.fixture';
import type { ScenePackage } from '@kindred/core/scene/package';
import type { Point } from '@kindred/core/scene/pick';
import { beforeEach, expect, it, vi } from 'vitest';
import { elementNumber } from './element-numbers.ts';
import type { ModelView } from './scene-engine.ts';
import type { Cuts } from './sections.ts';

/** Only the graphics card is missing here. */
vi.mock('three', async (original) => (await import('./no-graphics.fixture.ts')).withoutGraphics(original));
const { SceneEngine } = await import('./scene-engine.ts');

/** Boxes of two metres in a row along x, in a model that lies far from zero. */
const pack = (count: number, origin: [number, number, number]): ScenePackage =>
  boxes(
    Array.from({ length: count }, (_, i) => ({ min: [i * 4, 0, 0], size: [2, 2, 2] })),
    origin,
  );
const FAR: [number, number, number] = [400_000, 6_000_000, 10];
const view = (position: Point, target: Point, more: Partial<ModelView> = {}): ModelView => ({
  ...{ position, target, fieldOfView: 50, projection: 'perspective', height: 1 },
  ...more,
});
const at = (x: number, y: number, z: number): [number, number, number] => [FAR[0] + x, FAR[1] + y, FAR[2] + z];

let frame: () => void;
let engine: InstanceType<typeof SceneEngine>;
beforeEach(() => {
  vi.stubGlobal('requestAnimationFrame', (run: () => void) => ((frame = run), 1));
  vi.stubGlobal('matchMedia', () => ({ matches: false }));
  const canvas = document.createElement('canvas');
  Object.defineProperty(canvas, 'clientWidth', { value: 800 });
  Object.defineProperty(canvas, 'clientHeight', { value: 600 });
  engine = new SceneEngine(canvas);
  engine.resize(800, 600);
});

it('models are drawn together; what is said of them is in their own coordinates, however far they lie', () => {
  engine.addModel('one', pack(2, FAR));
  engine.addModel('two', pack(1, at(0, 20, 0)));
  expect(engine.rangeOf('x')).toEqual([FAR[0], FAR[0] + 6]);
  expect(engine.rangeOf('y')).toEqual([FAR[1], FAR[1] + 22]);
  expect(engine.stats().elements).toBe(3);
  engine.removeModel('two');
  expect(engine.stats().elements).toBe(2);
});

it('a view is what it was set to, in both projections, with its sections', () => {
  engine.addModel('one', pack(2, FAR));
  const wanted = view(at(3, -20, 5), at(3, 1, 1));
  const height = FAR[2] + 1.2;
  const cuts: Cuts = { sections: [{ at: [0, 0, height], direction: [0, 0, 1] }], box: null };
  engine.setCuts(cuts);
  for (const one of [wanted, view(at(3, -20, 5), at(3, 1, 1), { projection: 'orthographic', height: 12 })]) {
    engine.setView(one, false);
    const seen = engine.view();
    expect(seen.projection).toBe(one.projection);
    if (one.projection === 'orthographic') expect(seen.height).toBeCloseTo(12);
    seen.position.forEach((value, i) => expect(value).toBeCloseTo(one.position[i]!, 2));
    seen.target.forEach((value, i) => expect(value).toBeCloseTo(one.target[i]!, 2));
  }
  expect(engine.cuts).toEqual(cuts);
});

const [first, second] = [elementNumber(0, 0), elementNumber(0, 1)];

it('a click meets the nearest element, not what a section took away; a place is seen where it is', () => {
  engine.addModel('one', pack(2, FAR));
  engine.setView(view(at(1, -20, 1), at(1, 1, 1)), false);
  frame();
  const [x, y] = engine.toScreen(at(1, 0, 1))!;
  expect([Math.round(x), Math.round(y)]).toEqual([400, 300]);
  expect(engine.pick(x, y)).toMatchObject({ element: first, at: at(1, 0, 1).map((value) => expect.closeTo(value, 2)) });
  const beside = engine.toScreen(at(5, 0, 1))!;
  expect(engine.pick(...beside)?.element).toBe(second);
  expect(engine.pick(5, 5)).toBeNull();
  engine.paint.hide([first]);
  expect(engine.pick(x, y)).toBeNull();
  engine.paint.showAll();
  engine.setCuts({ sections: [{ at: [0, 0, FAR[2] - 1], direction: [0, 0, 1] }], box: null });
  expect(engine.pick(x, y)).toBeNull();
  engine.setCuts({ sections: [], box: [...at(3, -1, -1), ...at(9, 9, 9)] });
  expect([engine.pick(x, y), engine.pick(...beside)?.element]).toEqual([null, second]);
  expect(engine.toScreen(at(1, -40, 1))).toBeUndefined();
});

it('a section stays where it is when other models take the place of the first', () => {
  engine.addModel('one', pack(1, FAR));
  engine.setCuts({ sections: [{ at: [0, 0, FAR[2] + 50], direction: [0, 0, 1] }], box: null });
  engine.removeModel('one');
  engine.addModel('two', pack(1, at(0, 0, 100)));
  engine.setView(view(at(1, -20, 101), at(1, 1, 101)), false);
  frame();
  expect(engine.pick(400, 300)).toBeNull();
  engine.setCuts();
  expect(engine.pick(400, 300)).not.toBeNull();
});

it('a frame selects what lies wholly in it', () => {
  engine.addModel('one', pack(3, FAR));
  engine.setView(view(at(5, -40, 1), at(5, 1, 1)), false);
  frame();
  const corner = (x: number, z: number) => {
    const [px, py] = engine.toScreen(at(x, 0, z))!;
    return { x: px, y: py };
  };
  expect(engine.within(corner(-1, 3), corner(7, -1))).toEqual([first, second]);
  expect(engine.within(corner(7, -1), corner(3, 3))).toEqual([second]);
  expect(engine.within(corner(1, 1), corner(3, 3))).toEqual([]);
});

it('says where somebody points: at a corner that is near, and on which face', () => {
  engine.addModel('one', pack(2, FAR));
  engine.setView(view(at(1, -20, 1), at(1, 1, 1)), false);
  frame();
  const [x, y] = engine.toScreen(at(2, 0, 2))!;
  const aim = engine.aim(x - 4, y + 4)!;
  expect(aim).toMatchObject({ kind: 'corner', element: first });
  aim.at.forEach((value, i) => expect(value).toBeCloseTo(at(2, 0, 2)[i]!, 2));
  expect(aim.face.area).toBeCloseTo(4, 2);
  expect(aim.face.normal.map(Math.abs)).toEqual([0, 1, 0].map((value) => expect.closeTo(value)));
  expect(engine.volumeOf(first)).toBeCloseTo(8, 2);
  expect(engine.along(at(2.5, 1, 1), [1, 0, 0])).toMatchObject({ element: second, distance: expect.closeTo(1.5, 2) });
});

it('walks on what is there, at the height of an eye, and stands where one jumps to', () => {
  engine.addModel('one', pack(2, FAR));
  engine.setView(view(at(1, -6, 3), at(1, 10, 3)), false);
  engine.setMode('walk');
  for (let i = 0; i < 30; i++) engine.cameras.update(0.1);
  expect(engine.view().position[2]).toBeCloseTo(FAR[2] + 1.65, 1);
  engine.cameras.standing.key('w', true, false);
  for (let i = 0; i < 60; i++) engine.cameras.update(0.1);
  // The box stands in the way.
  expect(engine.view().position[1]).toBeCloseTo(FAR[1] - 0.22, 1);
  // Unless it is cut away.
  engine.setCuts({ sections: [], box: [...at(3, -9, -9), ...at(9, 9, 9)] });
  for (let i = 0; i < 60; i++) engine.cameras.update(0.1);
  expect(engine.view().position[1]).toBeGreaterThan(FAR[1] + 2);
  engine.setCuts();
  engine.cameras.standing.key('w', false, false);
  engine.jumpTo({ at: at(5, 1, 2), distance: 3 });
  engine.cameras.update(0.1);
  expect(engine.view().position[2]).toBeCloseTo(FAR[2] + 2 + 1.65, 1);
  engine.setMode('orbit');
  expect(engine.cameras.controls.enabled).toBe(true);
});

it('takes further parts of a model, painted as the rest is, and says where they are', () => {
  const whole = pack(2, FAR);
  const only = (at: number): ScenePackage => ({
    ...whole,
    instances: {
      shape: whole.instances.shape.slice(0, 1),
      element: Uint32Array.of(at),
      matrix: whole.instances.matrix.slice(at * 12, at * 12 + 12),
      colour: whole.instances.colour.slice(0, 4),
    },
  });
  const place = { bounds: [4, 0, 0, 6, 2, 2] as ScenePackage['bounds'], largest: 3.5, bytes: 60, elements: 1 };
  engine.addModel('one', { ...only(0), parts: { of: Uint16Array.of(0, 1), places: [place] } });
  expect(engine.stats()).toMatchObject({ elements: 2, missing: 1 });
  engine.paint.hide([second]);
  engine.setView(view(at(5, -20, 1), at(5, 1, 1)), false);
  frame();
  const { parts, eye } = engine.furtherParts();
  expect(parts).toMatchObject([{ version: 'one', part: 1, bounds: place.bounds, isHere: false }]);
  expect(eye.map(Math.round)).toEqual([5, -20, 1]);
  engine.addPart('one', 1, only(1), []);
  expect(engine.pick(400, 300)).toBeNull();
  engine.paint.showAll();
  expect(engine.pick(400, 300)?.element).toBe(second);
  engine.removePart('one', 1);
  expect(engine.pick(400, 300)).toBeNull();
  expect(engine.boundsOf([second])![0]).toBe(FAR[0] + 4);
});

it('draws anew when something changed, and not before; at rest the picture is finished', () => {
  engine.addModel('one', pack(1, FAR));
  const told: string[] = [];
  engine.onDrawn = () => told.push('drawn');
  engine.draw();
  expect(told).toEqual(['drawn']);
  expect(engine.stats().calls).toBe(3);
  engine.onFinished = () => told.push('finished');
  vi.spyOn(performance, 'now').mockImplementation(() => (clock += 400));
  let clock = 1e6;
  for (let i = 0; i < 40 && !told.includes('finished'); i++) frame();
  expect(told).toContain('finished');
  const pictures = told.length;
  frame();
  expect(told).toHaveLength(pictures);
  engine.dispose();
});
