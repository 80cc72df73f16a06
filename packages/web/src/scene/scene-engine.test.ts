import type { ViewpointState } from '@kindred/contract/scene/scene';
import type { ScenePackage } from '@kindred/core/scene/package';
import { beforeEach, expect, it, vi } from 'vitest';

/** Only the graphics card is missing here. */
vi.mock('three', async (original) => {
  class WebGLRenderer {
    info = { render: { calls: 3 } };
    localClippingEnabled = false;
    setPixelRatio = () => undefined;
    setSize = () => undefined;
    render = (_scene: unknown, camera: { updateMatrixWorld(): void }) => camera.updateMatrixWorld();
    dispose = () => undefined;
  }
  return { ...(await original<object>()), WebGLRenderer };
});
const { SceneEngine } = await import('./scene-engine.ts');

const CUBE = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((i) => [i & 1 ? 65535 : 0, i & 2 ? 65535 : 0, i & 4 ? 65535 : 0]);
const FACES = [
  0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4, 2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7, 5,
];
const rows = (count: number, of: (i: number) => number[]): number[] =>
  Array.from({ length: count }, (_, i) => of(i)).flat();
/** Boxes of two metres in a row along x, in a model that lies far from zero. */
const pack = (boxes: number, origin: [number, number, number]): ScenePackage => ({
  origin,
  bounds: [0, 0, 0, boxes * 4 - 2, 2, 2],
  shapes: {
    vertexStarts: Uint32Array.of(0, 8),
    indexStarts: Uint32Array.of(0, 36),
    positions: Uint16Array.from(CUBE),
    indices: Uint32Array.from(FACES),
  },
  instances: {
    shape: new Uint32Array(boxes),
    element: Uint32Array.from({ length: boxes }, (_, i) => i),
    matrix: Float32Array.from(rows(boxes, (i) => [2, 0, 0, 0, 2, 0, 0, 0, 2, i * 4, 0, 0])),
    colour: Uint8Array.from(rows(boxes, () => [120, 120, 120, 255])),
  },
});
const FAR: [number, number, number] = [400_000, 6_000_000, 10];
const camera = (position: number[], target: number[]) => ({
  camera: {
    position: position as [number, number, number],
    target: target as [number, number, number],
    fieldOfView: 50,
  },
  sections: [],
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

it('a view is what it was set to, with its section', () => {
  engine.addModel('one', pack(2, FAR));
  const wanted = camera(at(3, -20, 5), at(3, 1, 1));
  const height = FAR[2] + 1.2;
  const sections = [{ location: [0, 0, height], direction: [0, 0, 1] }] as ViewpointState['sections'];
  const section = engine.setView({ ...wanted, sections }, false);
  expect(section).toEqual({ axis: 'z', at: height, flipped: false });
  const view = engine.view();
  view.camera.position.forEach((value, i) => expect(value).toBeCloseTo(wanted.camera.position[i]!, 2));
  view.camera.target.forEach((value, i) => expect(value).toBeCloseTo(wanted.camera.target[i]!, 2));
  expect(view.sections).toEqual([{ location: [0, 0, height], direction: [0, 0, 1] }]);
});

it('a click meets the nearest element, not what a section took away; a place is seen where it is', () => {
  engine.addModel('one', pack(2, FAR));
  engine.setView(camera(at(1, -20, 1), at(1, 1, 1)), false);
  frame();
  const [x, y] = engine.toScreen(at(1, 0, 1))!;
  expect([Math.round(x), Math.round(y)]).toEqual([400, 300]);
  expect(engine.pick(x, y)).toEqual({ model: 'one', row: 0 });
  const beside = engine.toScreen(at(5, 0, 1))!;
  expect(engine.pick(...beside)).toEqual({ model: 'one', row: 1 });
  expect(engine.pick(5, 5)).toBeNull();
  engine.setVisible({ model: 'one', row: 0 }, false);
  expect(engine.pick(x, y)).toBeNull();
  engine.setVisible({ model: 'one', row: 0 }, true);
  engine.setSection({ axis: 'z', at: FAR[2] - 1, flipped: false });
  expect(engine.pick(x, y)).toBeNull();
  expect(engine.toScreen(at(1, -40, 1))).toBeUndefined();
});

it('draws anew when something changed, and not before', () => {
  engine.addModel('one', pack(1, FAR));
  const told: number[] = [];
  engine.onDrawn = () => told.push(1);
  engine.draw();
  expect(told).toHaveLength(1);
  expect(engine.stats().calls).toBe(3);
  engine.dispose();
});
