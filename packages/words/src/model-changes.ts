/** Sentences for what changed between two versions of a model. */
import type { ChangeKind } from '@kindred/core/compare/change-counts';
import type { ElementChange } from '@kindred/core/compare/compare-models';
import type { PropertyChange, SaidValue } from '@kindred/core/compare/compare-properties';
import type { Point } from '@kindred/core/scene/pick';
import type { Placing } from '@kindred/core/scene/placing';
import { sayPlacing } from './positions.ts';
import { counted } from './sentence.ts';
import { sayValue } from './property-values.ts';

const metres = (value: number): string => `${Math.round(value * 1000) / 1000} m`;

/** Kinds of changes, as they are called of elements. */
export const MODEL_CHANGE_WORDS: Record<ChangeKind, string> = {
  added: 'added',
  removed: 'removed',
  moved: 'moved',
  look: 'reshaped',
  text: 'values',
};

const sayMove = (moved: Point): string =>
  `moved by ${metres(Math.hypot(...moved))} (${moved.map((value) => Math.round(value * 1000) / 1000).join(', ')})`;

/** Of a model that moved as a whole, without the full stop. */
export const sayMotion = (motion: Placing): string =>
  `The whole model ${motion.turn ? `is ${sayPlacing(motion)}` : sayMove(motion.shift)}`;

/** `moved by 0.5 m (0.3, 0.4, 0), turned by 90°`: how an element changed, without its properties; empty where only those did. */
export function sayShapeChange({
  moved,
  turned,
  geometry,
}: Pick<ElementChange, 'moved' | 'turned' | 'geometry'>): string {
  const said: string[] = [];
  if (moved) said.push(sayMove(moved));
  if (turned) {
    const { axis, degrees } = turned;
    const about = Math.abs(axis[2]) > 0.9999 ? '' : ` about (${axis.map((value) => value.toFixed(2)).join(', ')})`;
    said.push(`turned by ${Math.round(degrees * 10) / 10}°${about}`);
  }
  if (geometry) {
    const values = [
      ['length', geometry.length, 'm'],
      ['area', geometry.area, 'm²'],
      ['volume', geometry.volume, 'm³'],
    ] as const;
    const told = values.flatMap(([name, pair, unit]) =>
      pair ? [`${name} ${pair.map((value) => Math.round(value * 1000) / 1000).join(' → ')} ${unit}`] : [],
    );
    said.push(told.length ? told.join(', ') : 'another shape of the same size');
  }
  return said.join(', ');
}

const sayEither = (said: SaidValue | null): string => (said ? sayValue(said) : 'not said');

/** `Pset_WallCommon / FireRating: EI 30 → EI 60`. */
export const sayPropertyChange = ({ set, name, before, after }: PropertyChange): string =>
  `${set ? `${set} / ` : ''}${name}: ${sayEither(before)} → ${sayEither(after)}`;

/** `moved by 0.5 m (0.3, 0.4, 0)`, `Pset_WallCommon / FireRating: EI 30 → EI 60 and 2 more values`, `added`. */
export function sayModelChange(
  change: Pick<ElementChange, 'moved' | 'turned' | 'geometry' | 'properties'> & { kind: ChangeKind },
): string {
  const shape = sayShapeChange(change);
  const [first, ...more] = change.properties;
  if (shape) return shape;
  if (!first) return MODEL_CHANGE_WORDS[change.kind];
  return `${sayPropertyChange(first)}${more.length ? ` and ${counted(more.length, 'more value')}` : ''}`;
}
