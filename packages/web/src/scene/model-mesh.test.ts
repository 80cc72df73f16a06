import type { ScenePackage } from '@kindred/core/scene/package';
import { Box3, Color, Mesh, Plane, Ray, Vector3, type BufferGeometry } from 'three';
import { describe, expect, it } from 'vitest';
import { ModelMesh } from './model-mesh.ts';

/** Unit cubes in a row along x, two metres apart; each pair of them is one element. */
function scene(count: number, opacity = 255): ScenePackage {
  const corner = Uint16Array.from({ length: 24 }, (_, i) => ((Math.floor(i / 3) >> (i % 3)) & 1 ? 65535 : 0));
  const faces = [
    0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4, 2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7, 5,
  ];
  return {
    origin: [0, 0, 0],
    bounds: [0, 0, 0, 2 * count, 1, 1],
    shapes: {
      vertexStarts: Uint32Array.of(0, 8),
      indexStarts: Uint32Array.of(0, 36),
      positions: corner,
      indices: Uint32Array.from(faces),
    },
    instances: {
      shape: new Uint32Array(count),
      element: Uint32Array.from({ length: count }, (_, i) => Math.floor(i / 2)),
      matrix: Float32Array.from(
        Array.from({ length: count }, (_, i) => [1, 0, 0, 0, 1, 0, 0, 0, 1, 2 * i, 0, 0]).flat(),
      ),
      colour: new Uint8Array(count * 4).fill(opacity),
    },
  };
}
const ray = new Ray(new Vector3(-5, 0.4, 0.3), new Vector3(1, 0, 0));
const geometries = (mesh: ModelMesh): BufferGeometry[] => mesh.group.children.map((child) => (child as Mesh).geometry);

describe('a model in the scene', () => {
  it('counts its elements and triangles, and draws all in one', () => {
    const mesh = new ModelMesh(scene(6), []);
    expect([mesh.elements, mesh.triangles]).toEqual([3, 72]);
    expect(geometries(mesh)).toHaveLength(1);
    expect(geometries(mesh)[0]!.getAttribute('position').count).toBe(48);
    expect(geometries(mesh)[0]!.index!.count).toBe(216);
  });

  it('stores a shape that repeats much once', () => {
    const [geometry] = geometries(new ModelMesh(scene(400), []));
    expect(geometry!.getAttribute('position').count).toBe(8);
    expect(geometry!.getAttribute('instance').count).toBe(400);
  });

  it('draws what one sees through in a draw of its own, after the rest', () => {
    const mixed = scene(4);
    mixed.instances.colour[3] = 100;
    const mesh = new ModelMesh(mixed, []);
    expect(geometries(mesh).map((one) => one.getAttribute('position').count)).toEqual([24, 8]);
  });

  it('answers a click with the nearest element that is visible and not cut away', () => {
    const mesh = new ModelMesh(scene(6), []);
    expect(mesh.pick(ray, [])).toMatchObject({ row: 0, distance: expect.closeTo(5) });
    mesh.setVisible(0, false);
    expect(mesh.pick(ray, [])).toMatchObject({ row: 1, distance: expect.closeTo(9) });
    const beyond6 = new Plane(new Vector3(1, 0, 0), -6.5);
    expect(mesh.pick(ray, [beyond6])).toMatchObject({ row: 1, distance: expect.closeTo(12) });
    mesh.setVisible(0, true);
    expect(mesh.pick(ray, [])).toMatchObject({ row: 0 });
    expect(mesh.pick(new Ray(new Vector3(0, 9, 0), new Vector3(1, 0, 0)), [])).toBeUndefined();
  });

  it('knows the box of an element, wherever the model stands', () => {
    const mesh = new ModelMesh(scene(6), []);
    mesh.group.position.set(100, 0, 0);
    const box = mesh.boxOf(1, new Box3());
    expect(box.min.toArray()).toEqual([104, 0, 0]);
    expect(box.max.toArray()).toEqual([107, 1, 1]);
  });

  it('gives a hidden element the paint back that it had', () => {
    const mesh = new ModelMesh(scene(2), []);
    const paint = () => [
      ...(
        mesh as unknown as { table: { paintTexture: { image: { data: Uint8Array } } } }
      ).table.paintTexture.image.data.slice(0, 4),
    ];
    const own = paint();
    mesh.paint(0, new Color(0x336699));
    const painted = paint();
    mesh.setVisible(0, false);
    const hidden = paint();
    mesh.setVisible(0, true);
    expect(paint()).toEqual(painted);
    expect(hidden).not.toEqual(painted);
    mesh.paint(0, null);
    expect(paint()).toEqual(own);
  });
});
