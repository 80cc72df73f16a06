/** What a BCF viewpoint shows, as the state of a scene. */
import type { Point } from '../scene/pick.ts';
import type { BcfCamera, BcfComponent, BcfViewpoint } from './bcf-file.ts';
import type { SeenState } from './of-viewpoint.ts';

/** Metres before the eye at which a perspective camera turns, where the file does not say at what it looks. */
const AHEAD = 10;
const MOST_SECTIONS = 6;
const MOST_MARKS = 200;
const [NARROWEST, WIDEST] = [1, 170];
const FARTHEST = 1e8;

export interface StateFromBcf extends SeenState {
  sections: { location: Point; direction: Point }[];
  hidden: string[];
  isolated: string[] | null;
  selection: string[];
  marks: { kind: 'line'; points: Point[]; text: string }[];
}

const idsOf = (components: readonly BcfComponent[]): string[] => [
  ...new Set(components.flatMap(({ ifcGuid }) => ifcGuid ?? [])),
];
const isPlace = (...points: readonly Point[]): boolean =>
  points.every((point) => point.every((value) => Number.isFinite(value) && Math.abs(value) < FARTHEST));

/** Null where it has no camera that can be looked through. Colours and bitmaps have no words in a scene. */
export function stateFrom({ camera, selection, visibility, sections, lines }: BcfViewpoint): StateFromBcf | null {
  const seen = camera && cameraFrom(camera);
  if (!seen) return null;
  const exceptions = idsOf(visibility?.exceptions ?? []);
  const shows = visibility?.default ?? true;
  return {
    camera: seen,
    sections: sections
      .filter(({ location, direction }) => isPlace(location, direction) && Math.hypot(...direction) > 0)
      .slice(0, MOST_SECTIONS)
      .map(({ location, direction }) => ({ location, direction })),
    hidden: shows ? exceptions : [],
    // What shows nothing at all was meant to show everything.
    isolated: shows || !exceptions.length ? null : exceptions,
    selection: idsOf(selection),
    marks: lines
      .filter(([from, to]) => isPlace(from, to))
      .slice(0, MOST_MARKS)
      .map(([from, to]) => ({ kind: 'line', points: [from, to], text: '' })),
  };
}

function cameraFrom({ kind, position, direction, fieldOfView, scale }: BcfCamera): SeenState['camera'] | null {
  const length = Math.hypot(...direction);
  if (!isPlace(position, direction) || !length) return null;
  const ahead = kind === 'orthogonal' ? Math.max(AHEAD, scale ?? 0) : AHEAD;
  const target = position.map((value, i) => value + (direction[i]! / length) * ahead) as unknown as Point;
  const angle = Math.min(WIDEST, Math.max(NARROWEST, fieldOfView ?? 60));
  const upright = kind === 'orthogonal' && scale !== undefined && scale > 0 && scale < 1e7;
  return { position, target, fieldOfView: upright ? 50 : angle, ...(upright && { height: scale }) };
}
