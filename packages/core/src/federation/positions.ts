/** Whether models of a federation lie together, and what is wrong with those that do not. */
import { farApart } from './apart.ts';
import type { WallDirection } from './wall-direction.ts';
import { around, type Bounds } from '../scene/bounds.ts';
import type { SurveyPosition } from '../scene/ifc-structure.ts';
import { boundsAt, placedTwice, turned, type Placing } from '../scene/placing.ts';

/** What a model says of where it lies. */
export interface ModelPosition {
  lengthUnit: string;
  survey: SurveyPosition | null;
  /** Of its elements, in the coordinates of the model, metres; null where it has none. */
  bounds: Bounds | null;
  /** Not said of those that were prepared before it was looked for; null where none prevails. */
  walls?: WallDirection | null;
}
/** How somebody put it. `of`: where the elements of the version lay for which that was done. */
interface SetPlacing {
  placing: Placing;
  of: Bounds | null;
}
export interface PlacedPosition extends ModelPosition {
  set?: SetPlacing | null;
}
export const POSITION_FINDINGS = [
  ...(['empty', 'wrong-unit', 'survey-coordinates', 'far', 'turned', 'mirrored'] as const),
  ...(['other-survey', 'no-survey', 'needs-no-placing'] as const),
] as const;
type Values = Record<string, string | number>;
export interface PositionFinding {
  code: (typeof POSITION_FINDINGS)[number];
  values: Values;
}
export interface JudgedPosition {
  findings: PositionFinding[];
  /** Of the model as it was delivered; null where it lies right, or no placing would help. */
  placing: Placing | null;
}

/** What lengths are mistaken for: millimetres, inches, feet as metres, and the other way round. */
const FACTORS = [1000, 0.001, 25.4, 1 / 25.4, 304.8, 1 / 304.8, 3.28084, 0.3048];
/** As part of its footprint: a model that lies with the others, and one that does not. */
const [WITH, APART] = [0.6, 0.1];
/** Degrees: walls that run so nearly alike run in one direction; and how many models have to say so. */
const [ONE_DIRECTION, FEWEST_WALLS] = [1, 2];
/** As part of its footprint: by how much more it would have to lie with the others. */
const BETTER = 0.2;
/** Metres and degrees: less is rounding. */
const SAME = 1e-3;

/** In the order of the models. O(n²) over models, of which a federation has some dozens. */
export function judgePositions(models: readonly PlacedPosition[]): JudgedPosition[] {
  const lying = models.map(({ bounds, set }) => bounds && (set ? boundsAt(bounds, set.placing) : bounds));
  const main = mainCluster(lying);
  const survey = mostCommonSurvey(main.flatMap((i) => (models[i]!.set ? [] : [models[i]!.survey])));
  return models.map((model, i) => {
    const bounds = lying[i];
    if (!bounds) return { findings: [{ code: 'empty', values: {} }], placing: null };
    const others = main.filter((k) => k !== i);
    const boxes = others.map((k) => lying[k]!);
    const judge = (own: Bounds) => (boxes.length ? placeAmong(own, boxes, survey) : null);
    const place =
      judge(bounds) ??
      skewed(
        model,
        boxes,
        others.flatMap((k) => (models[k]!.set ? [] : models[k]!)),
      );
    const { set } = model;
    if (set && (wasMoved(model.bounds!, set) || (place && !judge(model.bounds!))))
      return { findings: [{ code: 'needs-no-placing', values: {} }], placing: null };
    // What was placed by hand may say of the map what it likes.
    const own = place || set ? [] : surveyFinding(model.survey, survey);
    const further = place?.placing ?? (own[0]?.code === 'other-survey' ? between(model.survey!, survey!) : null);
    const placing = further && set ? placedTwice(set.placing, further) : further;
    return { findings: [...(place ? [place.finding] : []), ...own], placing };
  });
}

/** Whether it lies by itself, as nearly as boxes tell, where an earlier version was put. */
function wasMoved(now: Bounds, { placing, of }: SetPlacing): boolean {
  const away = (from: Bounds): number => Math.hypot(...now.map((value, i) => value - from[i]!));
  return of !== null && away(boundsAt(of, placing)) < away(of) / 4;
}

/** Positions of the most models that lie near each other. */
export function mainCluster(models: readonly (Bounds | null)[]): number[] {
  let best: number[] = [];
  models.forEach((bounds) => {
    if (!bounds) return;
    const near = models.flatMap((other, k) => (other && farApart(bounds, other) === null ? [k] : []));
    if (near.length > best.length) best = near;
  });
  return best;
}

function mostCommonSurvey(surveys: readonly (SurveyPosition | null)[]): SurveyPosition | null {
  const counts = new Map<string, { survey: SurveyPosition; count: number }>();
  for (const survey of surveys) {
    if (!survey) continue;
    const { eastings, northings, height, rotation } = survey;
    const key = [eastings, northings, height, rotation].map((value) => value.toFixed(3)).join();
    const known = counts.get(key);
    if (known) known.count++;
    else counts.set(key, { survey, count: 1 });
  }
  return [...counts.values()].sort((p, q) => q.count - p.count)[0]?.survey ?? null;
}

function placeAmong(
  own: Bounds,
  others: readonly Bounds[],
  survey: SurveyPosition | null,
): { finding: PositionFinding; placing: Placing | null } | null {
  const whole = around(others);
  const found = (code: PositionFinding['code'], values: Values = {}, placing: Placing | null = null) => ({
    ...{ finding: { code, values }, placing },
  });
  const factor = wrongUnit(own, others, whole);
  if (factor) return found('wrong-unit', { factor });
  const far = farApart(own, whole);
  if (far !== null && survey) {
    const back: Placing = placingFromSurvey(survey);
    if (farApart(boundsAt(own, back), whole) === null) return found('survey-coordinates', {}, back);
  }
  if (overlap(own, whole) < APART) {
    for (const degrees of [90, 180, 270])
      if (overlap(boundsAt(own, { turn: degrees, shift: [0, 0, 0] }), whole) > WITH)
        return found('turned', { degrees }, { turn: degrees, shift: [0, 0, 0] });
    for (const axis of [0, 1])
      if (overlap(mirrored(own, axis), whole) > WITH) return found('mirrored', { axis: 'xy'[axis]! });
  }
  return far === null ? null : found('far', { metres: Math.round(far) });
}

/** Turned by what is no quarter: its walls run in another direction, and turned back it lies with the others better than before. */
function skewed(
  { bounds, walls, set }: PlacedPosition,
  boxes: readonly Bounds[],
  others: readonly ModelPosition[],
): { finding: PositionFinding; placing: Placing } | null {
  const directions = others.flatMap((other) => other.walls ?? []);
  const common = directions[directions.length >> 1];
  if (!walls || set || !common || directions.length < FEWEST_WALLS) return null;
  if (directions.some(({ degrees }) => Math.abs(quarter(degrees - common.degrees)) > ONE_DIRECTION)) return null;
  const back = quarter(common.degrees - walls.degrees);
  if (Math.abs(back) <= ONE_DIRECTION) return null;
  const whole = around(directions.map(({ along }) => along));
  const isNow = overlap(bounds!, around(boxes));
  const turns = [0, 90, 180, 270].map((more) => {
    const lies = boundsAt(walls.along, { turn: more, shift: [0, 0, 0] });
    return { turn: quarter(back, 360) + more, fits: overlap(lies, whole) };
  });
  const best = turns.reduce((p, q) => (q.fits > p.fits + 1e-6 ? q : p));
  if (best.fits < WITH || best.fits < isNow + BETTER) return null;
  const turn = quarter(best.turn, 360);
  return {
    finding: { code: 'turned', values: { degrees: Math.round(turn * 100) / 100 } },
    placing: { turn, shift: [0, 0, 0] },
  };
}
/** The smallest turn that is the same but for whole ones, or quarters. */
const quarter = (degrees: number, whole = 90): number => degrees - whole * Math.round(degrees / whole);

/** By how much its numbers would have to be multiplied; undefined where they may be right: a chair is small, too. */
function wrongUnit(own: Bounds, others: readonly Bounds[], whole: Bounds): number | undefined {
  const usual = [...others].map(diagonal).sort((p, q) => p - q)[others.length >> 1]!;
  const ratio = usual / diagonal(own);
  const isAbsurd = ratio > 200 || ratio < 1 / 200;
  if (!isAbsurd && farApart(own, whole) === null) return undefined;
  return FACTORS.find((factor) => {
    const right = own.map((value) => value * factor) as unknown as Bounds;
    const like = usual / diagonal(right);
    return like > 1 / 4 && like < 4 && overlap(right, whole) > (isAbsurd ? 0.3 : WITH);
  });
}

function surveyFinding(own: SurveyPosition | null, common: SurveyPosition | null): PositionFinding[] {
  if (!common) return [];
  if (!own) return [{ code: 'no-survey', values: {} }];
  const { turn, shift } = between(own, common);
  if (Math.abs(turn) < SAME && Math.hypot(...shift) < SAME) return [];
  return [{ code: 'other-survey', values: { metres: Math.round(Math.hypot(...shift) * 1000) / 1000, degrees: turn } }];
}

/** Model coordinates turned into those of the map (IfcMapConversion), and back by another conversion. */
function between(from: SurveyPosition, to: SurveyPosition): Placing {
  const shift = turned([from.eastings - to.eastings, from.northings - to.northings], -to.rotation);
  return { turn: from.rotation - to.rotation, shift: [shift[0], shift[1], from.height - to.height] };
}
/** What was drawn in map coordinates, brought to where those with a conversion lie. */
const placingFromSurvey = (to: SurveyPosition): Placing =>
  between({ ...to, eastings: 0, northings: 0, height: 0, rotation: 0 }, to);

const mirrored = (bounds: Bounds, axis: number): Bounds => {
  const other = [...bounds] as unknown as Bounds;
  [other[axis], other[axis + 3]] = [-bounds[axis + 3]!, -bounds[axis]!];
  return other;
};
const diagonal = ([x0, y0, z0, x1, y1, z1]: Bounds): number => Math.hypot(x1 - x0, y1 - y0, z1 - z0);
/** How much of the footprint of `a` lies in that of `b`, of 1. */
function overlap(a: Bounds, b: Bounds): number {
  const shared = [0, 1].map((axis) => Math.max(0, Math.min(a[axis + 3]!, b[axis + 3]!) - Math.max(a[axis]!, b[axis]!)));
  const area = (a[3] - a[0]) * (a[4] - a[1]);
  return area > 0 ? (shared[0]! * shared[1]!) / area : 0;
}
