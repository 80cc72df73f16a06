/** Where somebody means who points near a corner, the middle of an edge, or an edge. */
import { Line3, Vector3 } from 'three';
import type { Point } from './pick.ts';
import type { Edge } from './solid.ts';

export type SnapKind = 'corner' | 'middle' | 'edge' | 'face';
export interface Snap {
  kind: SnapKind;
  at: Point;
  /** The edge of a middle or an edge. */
  edge?: Edge;
}

/** The middle of an edge and the edge itself draw less than a corner does. */
const WEAKER = 0.7;

/** `hit`: where the surface is met; `reach`: metres around it. O(edges). */
export function snap(edges: readonly Edge[], hit: Point, reach: number): Snap {
  const from = new Vector3(...hit);
  let best: Snap = { kind: 'face', at: hit };
  const nearest = { corner: reach, middle: reach * WEAKER, edge: reach * WEAKER };
  const rank = { face: 0, edge: 1, middle: 2, corner: 3 };
  const offer = (kind: 'corner' | 'middle' | 'edge', at: Vector3, edge: Edge): void => {
    const distance = at.distanceTo(from);
    if (distance >= nearest[kind]) return;
    nearest[kind] = distance;
    if (rank[kind] >= rank[best.kind]) best = { kind, at: at.toArray(), ...(kind !== 'corner' && { edge }) };
  };
  const line = new Line3();
  const at = new Vector3();
  for (const edge of edges) {
    line.set(new Vector3(...edge[0]), new Vector3(...edge[1]));
    if (line.closestPointToPoint(from, true, at).distanceTo(from) >= reach) continue;
    offer('edge', at, edge);
    offer('corner', line.start, edge);
    offer('corner', line.end, edge);
    offer('middle', line.getCenter(at), edge);
  }
  return best;
}
