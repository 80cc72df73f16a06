/** What changed between two versions of a model. */
import { bodyOf, type Body, type BodyMeasures } from '../scene/element-body.ts';
import type { ScenePackage } from '../scene/package.ts';
import type { Point } from '../scene/pick.ts';
import { rowStarts } from '../scene/row-starts.ts';
import { PropertyComparison, type PropertyChange, type SaidModel } from './compare-properties.ts';
import { matchElements, type ElementPair, type ElementPlace } from './match-elements.ts';
import { motionBetween, NEAR, type Motion } from '../scene/same-body.ts';
import { SameInstances } from './same-instances.ts';
import { placeScene, type Placing } from '../scene/placing.ts';
import { wholeMotion, type MovedElement } from './whole-motion.ts';

export interface ComparedModel extends SaidModel {
  scene: ScenePackage;
}

/** Before and after. */
export type Pair = readonly [number, number];
export interface ShapeChange {
  /** Of what it encloses, cubic metres; of its surface, square metres; along its longest side, metres. Only what differs. */
  volume?: Pair;
  area?: Pair;
  length?: Pair;
}
export interface ElementChange {
  /** Rows of the element tables. */
  before: number;
  after: number;
  /** Under another GlobalId now. */
  renamed: boolean;
  /** Metres; null where it stands where it stood. */
  moved: Point | null;
  turned: Motion['turned'];
  /** Null where it is the same solid. */
  geometry: ShapeChange | null;
  properties: PropertyChange[];
}
export interface ModelComparison {
  /** What most elements did together: the model as a whole; null where it did not. */
  motion: Placing | null;
  /** Rows of the later table. */
  added: number[];
  /** Rows of the earlier table. */
  removed: number[];
  /** In the order of the later table. */
  changed: ElementChange[];
  /** Those that are the same. */
  unchanged: ElementPair[];
}

/** As part of the whole: less is not told. */
const TOLD = 1e-4;

/** `onPair`: called after each pair of elements, with how many of how many are done; may throw to stop. O(n log n + triangles that differ). */
export function compareModels(
  before: ComparedModel,
  after: ComparedModel,
  onPair: (done: number, of: number) => void = () => undefined,
): ModelComparison {
  const [left, right] = [new Bodies(before), new Bodies(after)];
  const matched = matchElements(before.table, after.table, left.place, right.place);
  const instances = new SameInstances(before.scene, after.scene);
  const said = new PropertyComparison(before, after);
  const together: MovedElement[] = [];
  const shapes = matched.pairs.map((pair, i) => {
    onPair(i + 1, matched.pairs.length);
    if (instances.areSame(left.rangeOf(pair.before), right.rangeOf(pair.after))) return SAME;
    const [a, b] = [left.of(pair.before), right.of(pair.after)];
    const shape = compareShapes(a, b);
    if (shape !== SAME && !shape.geometry)
      together.push({ before: a.measures.middle, after: b.measures.middle, turned: shape.turned });
    return shape;
  });
  const changed: ElementChange[] = [];
  const unchanged: ElementPair[] = [];
  matched.pairs.forEach((pair, i) => {
    const properties = said.changesOf(pair.before, pair.after);
    const shape = shapes[i]!;
    if (properties.length || shape !== SAME) changed.push({ ...pair, ...shape, properties });
    else unchanged.push(pair);
  });
  const motion = wholeMotion(together, matched.pairs.length);
  return { motion, added: matched.added, removed: matched.removed, changed, unchanged };
}

/** The same, where the model as a whole moved each change against that: elements that stayed behind have moved. */
export function compareModelsAsWholes(before: ComparedModel, after: ComparedModel): ModelComparison {
  const found = compareModels(before, after);
  const { motion } = found;
  if (!motion) return found;
  return { ...compareModels({ ...before, scene: placeScene(before.scene, motion) }, after), motion };
}

type Shape = Pick<ElementChange, 'moved' | 'turned' | 'geometry'>;
const SAME: Shape = { moved: null, turned: null, geometry: null };

function compareShapes(before: Body, after: Body): Shape {
  const motion = motionBetween(before, after);
  if (motion) {
    const moved = Math.hypot(...motion.moved) > NEAR ? motion.moved : null;
    return moved || motion.turned ? { moved, turned: motion.turned, geometry: null } : SAME;
  }
  const [a, b] = [before.measures, after.measures];
  const geometry: ShapeChange = {};
  for (const name of ['volume', 'area', 'length'] as const) {
    const [was, is] = [a[name], b[name]];
    if (was !== null && is !== null && Math.abs(was - is) > TOLD * Math.max(was, is)) geometry[name] = [was, is];
  }
  return { moved: shiftOf(a, b), turned: null, geometry };
}

/** Where a body changed its shape it has moved along an axis as far as both of its ends went the same way. */
function shiftOf({ bounds: a }: BodyMeasures, { bounds: b }: BodyMeasures): Point | null {
  const moved = [0, 1, 2].map((axis) => {
    const [low, high] = [b[axis]! - a[axis]!, b[axis + 3]! - a[axis + 3]!];
    return low * high <= 0 ? 0 : Math.abs(low) < Math.abs(high) ? low : high;
  }) as unknown as Point;
  return Math.hypot(...moved) > NEAR ? moved : null;
}

/** The bodies of a model, each made when it is asked for. */
class Bodies {
  private readonly starts: Uint32Array;
  private readonly places = new Map<number, ElementPlace>();

  constructor(private readonly model: ComparedModel) {
    this.starts = rowStarts(model.scene.instances.element, model.table.globalId.length);
  }
  /** Numbers of the instances of a row, which are in the order of rows. */
  rangeOf(row: number): readonly [from: number, to: number] {
    return [this.starts[row]!, this.starts[row + 1]!];
  }
  of(row: number): Body {
    return bodyOf(this.model.scene, ...this.rangeOf(row));
  }
  place = (row: number): ElementPlace => {
    let place = this.places.get(row);
    if (!place) {
      const { middle, area } = this.of(row).measures;
      this.places.set(row, (place = { middle, area }));
    }
    return place;
  };
}
