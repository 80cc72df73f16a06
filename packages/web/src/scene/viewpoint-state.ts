/** What one sees of a scene, as a viewpoint keeps it. */
import type { ViewpointState } from '@kindred/contract/scene/scene';
import { elementNumber, rowOf, slotOf } from './engine/element-numbers.ts';
import type { SceneEngine } from './engine/scene-engine.ts';
import type { LoadedModel } from './models.ts';

export type Annotations = Required<Pick<ViewpointState, 'measures' | 'marks' | 'colouredBy'>>;
type Triple = [number, number, number];
const triple = ([x, y, z]: readonly [number, number, number]): Triple => [x, y, z];
const rounded = (point: readonly [number, number, number]): Triple =>
  triple(point).map((value) => Math.round(value * 1e4) / 1e4) as Triple;

export function takeState(
  engine: SceneEngine,
  models: readonly LoadedModel[],
  { measures, marks, colouredBy }: Annotations,
): ViewpointState {
  const tables = new Map(models.map((model) => [model.slot, model.table]));
  const ids = (elements: readonly number[]): string[] =>
    elements.flatMap((element) => tables.get(slotOf(element))?.globalId[rowOf(element)] ?? []);
  const { position, target, fieldOfView, projection, height } = engine.view();
  const { sections, box } = engine.cuts;
  const { hidden, ghosts, isolated, rest, selection } = engine.paint.state();
  return {
    camera: {
      ...{ position: triple(position), target: triple(target), fieldOfView },
      ...(projection === 'orthographic' && { height }),
    },
    sections: sections.map(({ at, direction }) => ({ location: rounded(at), direction: rounded(direction) })),
    box: box && [
      [box[0], box[1], box[2]],
      [box[3], box[4], box[5]],
    ],
    hidden: ids(hidden),
    ghosts: ids(ghosts),
    isolated: isolated && ids(isolated),
    restAsGhosts: rest === 'ghost',
    selection: ids(selection),
    colouredBy: colouredBy && { set: colouredBy.set, name: colouredBy.name },
    measures: measures.map((measure) => ({ ...measure, points: measure.points.map(triple) })),
    marks: marks.map((mark) => ({ ...mark, points: mark.points.map(triple) })),
  };
}

/** Brings a scene to a state; what its models do not have is left out. */
export function applyState(
  engine: SceneEngine,
  models: readonly LoadedModel[],
  state: ViewpointState,
  moving: boolean,
): void {
  const byId = new Map<string, number>();
  for (const { slot, table } of models) table.globalId.forEach((id, row) => byId.set(id, elementNumber(slot, row)));
  const numbers = (ids: readonly string[] | undefined): number[] => (ids ?? []).flatMap((id) => byId.get(id) ?? []);
  engine.paint.apply({
    hidden: numbers(state.hidden),
    ghosts: numbers(state.ghosts),
    isolated: state.isolated && numbers(state.isolated),
    rest: state.restAsGhosts ? 'ghost' : 'hidden',
    selection: numbers(state.selection),
  });
  engine.setCuts({
    sections: state.sections.map(({ location, direction }) => ({ at: location, direction })),
    box: state.box ? [...state.box[0], ...state.box[1]] : null,
  });
  const { position, target, fieldOfView, height } = state.camera;
  engine.setView(
    { position, target, fieldOfView, projection: height ? 'orthographic' : 'perspective', height: height ?? 1 },
    moving,
  );
}

/** Camera as it stands in an address. */
export function cameraText(engine: SceneEngine): string {
  const { position, target, projection, height } = engine.view();
  const numbers = [...position, ...target, ...(projection === 'orthographic' ? [height] : [])];
  return numbers.map((value) => value.toFixed(2)).join(',');
}
/** False where the text names no camera. */
export function setCamera(engine: SceneEngine, text: string): boolean {
  const numbers = text.split(',').map(Number);
  if (!(numbers.length === 6 || numbers.length === 7) || !numbers.every(Number.isFinite)) return false;
  const [px, py, pz, tx, ty, tz, height] = numbers as [number, number, number, number, number, number, number?];
  engine.setView(
    {
      ...{ position: [px, py, pz], target: [tx, ty, tz], fieldOfView: 50 },
      ...(height && height > 0 ? { projection: 'orthographic', height } : { projection: 'perspective', height: 1 }),
    },
    false,
  );
  return true;
}
