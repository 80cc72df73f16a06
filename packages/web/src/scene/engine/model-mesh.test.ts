import fc from 'fast-check';
import { boxes } from '@kindred/core/scene/boxes.fixture';
import type { ScenePackage } from '@kindred/core/scene/package';
import { Box3, Mesh, Plane, Ray, Vector3, type BufferGeometry } from 'three';
import { describe, expect, it } from 'vitest';
import { drawsOf, OPEN, type Draw } from './draws.ts';
import { ModelMesh } from './model-mesh.ts';

/** Unit cubes in a row along x, two metres apart; each pair of them is one element. */
function scene(count: number, opacity = 255): ScenePackage {
  const pack = boxes(Array.from({ length: count }, (_, i) => ({ min: [2 * i, 0, 0], size: [1, 1, 1] })));
  pack.instances.element = Uint32Array.from({ length: count }, (_, i) => Math.floor(i / 2));
  pack.instances.colour.fill(opacity);
  return pack;
}
const shared = { grain: { value: 0 }, capWithColour: { value: 0 } };
const meshOf = (pack: ScenePackage): ModelMesh => new ModelMesh(pack, drawsOf(pack), [], shared);
const all = () => true;
const ray = new Ray(new Vector3(-5, 0.4, 0.3), new Vector3(1, 0, 0));
const geometries = (mesh: ModelMesh): BufferGeometry[] => mesh.group.children.map((child) => (child as Mesh).geometry);

describe('a model in the scene', () => {
  it('counts its elements and triangles, and draws all in one', () => {
    const mesh = meshOf(scene(6));
    expect([mesh.elements, mesh.triangles]).toEqual([3, 72]);
    expect(geometries(mesh)).toHaveLength(1);
    expect(geometries(mesh)[0]!.getAttribute('position').count).toBe(48);
    expect(geometries(mesh)[0]!.index!.count).toBe(216);
  });

  it('stores a shape that repeats much once', () => {
    const [geometry] = geometries(meshOf(scene(400)));
    expect(geometry!.getAttribute('position').count).toBe(8);
    expect(geometry!.getAttribute('instance').count).toBe(400);
  });

  it('draws what one sees through in a draw of its own, after the rest', () => {
    const mixed = scene(4);
    mixed.instances.colour[3] = 100;
    const mesh = meshOf(mixed);
    expect(geometries(mesh).map((one) => one.getAttribute('position').count)).toEqual([24, 8]);
  });

  it('answers a click with the nearest element that is accepted and not cut away', () => {
    const mesh = meshOf(scene(6));
    expect(mesh.pick(ray, [], all)).toMatchObject({ row: 0, distance: expect.closeTo(5) });
    expect(mesh.pick(ray, [], (row) => row !== 0)).toMatchObject({ row: 1, distance: expect.closeTo(9) });
    const beyond6 = new Plane(new Vector3(1, 0, 0), -6.5);
    expect(mesh.pick(ray, [beyond6], all)).toMatchObject({ row: 1, distance: expect.closeTo(12) });
    expect(mesh.pick(new Ray(new Vector3(0, 9, 0), new Vector3(1, 0, 0)), [], all)).toBeUndefined();
  });

  it('finds the instances of its elements in whatever order they are asked for', () => {
    const rows = fc.array(fc.nat(19), { minLength: 1, maxLength: 30 });
    const mesh = meshOf(scene(40));
    fc.assert(
      fc.property(rows, (asked) => {
        for (const row of asked) expect(mesh.boxOf(row, new Box3()).min.x).toBe(row * 4);
      }),
    );
  });

  it('knows the box of an element, wherever the model stands', () => {
    const mesh = meshOf(scene(6));
    mesh.group.position.set(100, 0, 0);
    const box = mesh.boxOf(1, new Box3());
    expect(box.min.toArray()).toEqual([104, 0, 0]);
    expect(box.max.toArray()).toEqual([107, 1, 1]);
  });

  it('lifts elements off their places, for clicks and boxes too, and puts them back', () => {
    const mesh = meshOf(scene(6));
    mesh.lift(Float32Array.of(0, 5, 0));
    expect(mesh.boxOf(1, new Box3()).min.z).toBe(5);
    expect(mesh.pick(ray, [], (row) => row === 1)).toBeUndefined();
    mesh.lift(null);
    expect(mesh.boxOf(1, new Box3()).min.z).toBe(0);
    expect(mesh.pick(ray, [], (row) => row === 1)).toBeDefined();
  });

  it('tells the corners of all that stands in it', () => {
    const mesh = meshOf(scene(2));
    mesh.group.position.set(0, 10, 0);
    const corners = mesh.corners();
    expect(corners).toHaveLength(2 * 24);
    expect([...corners.subarray(0, 6)]).toEqual([0, 10, 0, 1, 10, 0]);
  });
});

describe('a model in parts', () => {
  /** Three cubes of one element each, ten metres apart: the first is here, the others are a part. */
  const whole = boxes([0, 10, 20].map((x) => ({ min: [x, 0, 0], size: [1, 1, 1] })));
  const only = (from: number, to: number): ScenePackage => ({
    ...whole,
    instances: {
      shape: whole.instances.shape.slice(from, to),
      element: whole.instances.element.slice(from, to),
      matrix: whole.instances.matrix.slice(from * 12, to * 12),
      colour: whole.instances.colour.slice(from * 4, to * 4),
    },
  });
  const place = { bounds: [10, 0, 0, 21, 1, 1] as ScenePackage['bounds'], largest: 2, bytes: 120, elements: 2 };
  const first = { ...only(0, 1), parts: { of: Uint16Array.of(0, 1, 1), places: [place] } };
  const [further, draws] = [only(1, 3), drawsOf(only(1, 3))];
  const ray20 = new Ray(new Vector3(20.4, -5, 0.3), new Vector3(0, 1, 0));

  it('knows where the elements are whose part is not here', () => {
    const mesh = meshOf(first);
    mesh.group.position.set(100, 0, 0);
    expect([mesh.elements, mesh.missing]).toEqual([3, 2]);
    expect(mesh.furtherParts()).toMatchObject([{ part: 1, isHere: false, bytes: 240, elements: 2 }]);
    const box = mesh.boxOf(2, new Box3());
    expect([box.min.x, box.max.x]).toEqual([110, 121]);
    expect(mesh.corners()).toHaveLength(48);
    expect(mesh.solidsOf(2)).toEqual([]);
    mesh.paint(2, 'hidden');
  });

  it('takes a part in, lifted like the rest, and gives it back', () => {
    const mesh = meshOf(first);
    mesh.lift(Float32Array.of(0, 0, 7));
    expect([...mesh.addPart(1, further, draws)]).toEqual([1, 2]);
    expect(mesh.missing).toBe(0);
    expect(mesh.boxOf(2, new Box3()).min.z).toBe(7);
    expect(mesh.pick(ray20, [], all)).toBeUndefined();
    mesh.lift(null);
    expect(mesh.pick(ray20, [], all)).toMatchObject({ row: 2, part: 1, distance: expect.closeTo(5) });
    const { bytes, triangles } = mesh;
    expect([mesh.solidsOf(2)[0]!.volume(), triangles]).toEqual([expect.closeTo(1), 36]);
    mesh.removePart(1);
    expect(mesh.bytes).toBeLessThan(bytes);
    expect(mesh.group.children).toHaveLength(1);
    // What it took is known now.
    expect(mesh.furtherParts()[0]!.bytes).toBe(bytes - mesh.bytes);
    expect(mesh.pick(ray20, [], all)).toBeUndefined();
  });
});

describe('draws', () => {
  it('turn shapes that are written inside out, and mark those that are not closed', () => {
    const pack = scene(1);
    const [outside] = drawsOf(pack);
    for (let t = 0; t < 36; t += 3)
      [pack.shapes.indices[t], pack.shapes.indices[t + 1]] = [pack.shapes.indices[t + 1]!, pack.shapes.indices[t]!];
    const faces = ({ indices }: Draw): string[] =>
      Array.from({ length: indices.length / 3 }, (_, t) => {
        const corners = [...indices.subarray(t * 3, t * 3 + 3)];
        while (corners[0] !== Math.min(...corners)) corners.push(corners.shift()!);
        return corners.join();
      }).sort();
    expect(faces(drawsOf(pack)[0]!)).toEqual(faces(outside!));
    expect(outside!.instances[0]).toBe(0);
    pack.shapes.indexStarts = Uint32Array.of(0, 30);
    expect(drawsOf(pack)[0]!.instances[0]).toBe(OPEN);
  });
});
