import { describe, expect, it } from 'vitest';
import type { ModelView, SceneEngine } from './engine/scene-engine.ts';
import { linkCameras } from './linked-cameras.ts';
import { pairOf } from './version-pairs.ts';

const version = (number: number, ready = true) => ({ id: `v${number}`, number, revision: `P0${number}`, ready });

describe('the versions of a model beside each other', () => {
  const versions = [version(4, false), version(3), version(2), version(1)];
  it.each([
    ['v1', 'v1', 'v3'],
    ['v2', 'v2', 'v3'],
    ['v3', 'v2', 'v3'],
  ])('of %s are %s and %s: what is not prepared yet is not offered', (seen, left, right) => {
    const pair = pairOf('Model', versions, seen);
    expect([pair.left, pair.right]).toEqual([left, right]);
    expect(pair.versions.map(({ id }) => id)).toEqual(['v3', 'v2', 'v1']);
  });
  it('are the same one where there is no other', () => {
    expect(pairOf('Model', [version(1)], 'v1')).toMatchObject({ left: 'v1', right: 'v1' });
  });
});

/** A scene that draws when it is told to look elsewhere, a little off for the rounding of its camera. */
class Scene {
  drawn = 0;
  onDrawn: () => void = () => undefined;
  constructor(
    public now: ModelView,
    private readonly off: number,
  ) {}
  view = (): ModelView => this.now;
  setView(view: ModelView): void {
    this.now = { ...view, position: [view.position[0] + this.off, view.position[1], view.position[2]] };
    this.draw();
  }
  draw(): void {
    if (++this.drawn > 20) throw new Error('They send each other to and fro');
    this.onDrawn();
  }
}

it('cameras follow each other, and come to rest', () => {
  const at = (x: number): ModelView => ({
    ...{ position: [x, 0, 0], target: [0, 0, 0], projection: 'perspective', fieldOfView: 50, height: 1 },
  });
  const [a, b] = [new Scene(at(5), 1e-5), new Scene(at(9), -1e-5)];
  linkCameras([a, b] as unknown as SceneEngine[]);
  a.draw();
  expect(b.now.position[0]).toBeCloseTo(5, 3);
  b.now = at(7);
  b.draw();
  expect(a.now.position[0]).toBeCloseTo(7, 3);
});
