/** Bodies for tests. */
import { Matrix4, Vector3 } from 'three';
import { Body } from './element-body.ts';

type Triple = readonly [number, number, number];

/** `cuts`: each face is divided so often along both of its sides: the same box, written differently. */
export function box([x, y, z]: Triple, cuts = 1): Body {
  const corners: number[] = [];
  const indices: number[] = [];
  const face = (at: Triple, u: Triple, v: Triple): void => {
    const first = corners.length / 3;
    for (let i = 0; i <= cuts; i++)
      for (let j = 0; j <= cuts; j++)
        corners.push(...[0, 1, 2].map((k) => at[k]! + (u[k]! * i) / cuts + (v[k]! * j) / cuts));
    for (let i = 0; i < cuts; i++)
      for (let j = 0; j < cuts; j++) {
        const [a, b] = [first + i * (cuts + 1) + j, first + (i + 1) * (cuts + 1) + j];
        indices.push(a, b, b + 1, a, b + 1, a + 1);
      }
  };
  face([0, 0, 0], [0, y, 0], [x, 0, 0]);
  face([0, 0, z], [x, 0, 0], [0, y, 0]);
  face([0, 0, 0], [x, 0, 0], [0, 0, z]);
  face([0, y, 0], [0, 0, z], [x, 0, 0]);
  face([0, 0, 0], [0, 0, z], [0, y, 0]);
  face([x, 0, 0], [0, y, 0], [0, 0, z]);
  return new Body(Float64Array.from(corners), Uint32Array.from(indices));
}

/** Around the z axis, from the floor up. `turned`: radians, where the first corner lies. */
export function cylinder(radius: number, height: number, segments: number, turned = 0): Body {
  const corners = [0, 0, 0, 0, 0, height];
  for (let i = 0; i < segments; i++) {
    const angle = turned + (2 * Math.PI * i) / segments;
    const [x, y] = [radius * Math.cos(angle), radius * Math.sin(angle)];
    corners.push(x, y, 0, x, y, height);
  }
  const indices: number[] = [];
  for (let i = 0; i < segments; i++) {
    const [a, b] = [2 + 2 * i, 2 + 2 * ((i + 1) % segments)];
    indices.push(0, b, a, 1, a + 1, b + 1, a, b, b + 1, a, b + 1, a + 1);
  }
  return new Body(Float64Array.from(corners), Uint32Array.from(indices));
}

export function placed(body: Body, matrix: Matrix4): Body {
  const at = new Vector3();
  const corners = new Float64Array(body.corners.length);
  for (let i = 0; i < corners.length; i += 3) at.fromArray(body.corners, i).applyMatrix4(matrix).toArray(corners, i);
  return new Body(corners, body.indices);
}

/** The same triangles in another order, each begun at another corner, over corners in another order. */
export function rewritten({ corners, indices }: Body): Body {
  const count = corners.length / 3;
  const turnedCorners = Float64Array.from(corners, (_, i) => corners[(count - 1 - Math.floor(i / 3)) * 3 + (i % 3)]!);
  const triangles = Array.from({ length: indices.length / 3 }, (_, t) =>
    [1, 2, 0].map((k) => count - 1 - indices[t * 3 + k]!),
  );
  return new Body(turnedCorners, Uint32Array.from(triangles.reverse().flat()));
}

export function joined(...bodies: Body[]): Body {
  let vertices = 0;
  const indices: number[] = [];
  for (const { corners, indices: own } of bodies) {
    for (const i of own) indices.push(i + vertices);
    vertices += corners.length / 3;
  }
  return new Body(Float64Array.from(bodies.flatMap(({ corners }) => [...corners])), Uint32Array.from(indices));
}
