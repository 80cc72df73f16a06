import { counted } from './sentence.ts';
import type { ChangeKind } from '@kindred/core/compare/compare-sheets';

/** Millimetres a point. */
const MM = 25.4 / 72;

interface Told {
  kind: ChangeKind;
  /** Points on paper. */
  shift?: readonly [number, number];
  /** Radians. */
  turn?: number;
  mirrored?: boolean;
  before?: string;
  after?: string;
}

const HAPPENED = { added: 'Added', removed: 'Removed', moved: 'Moved' };

/** “Moved by 2.12 mm”, “‘Store’ → ‘Kit room’”. */
export function sayChange({ kind, shift, turn, mirrored, before, after }: Told): string {
  if (kind === 'text') return `“${before}” → “${after}”`;
  const words = after ?? before;
  const about = words === undefined ? '' : ` “${words}”`;
  if (mirrored) return `Mirrored${about}`;
  if (turn) return `Turned by ${Math.round(Math.abs((turn * 180) / Math.PI) * 10) / 10}°${about}`;
  const far = shift ? ` by ${(Math.hypot(...shift) * MM).toFixed(2)} mm` : '';
  return `${HAPPENED[kind]}${far}${about}`;
}

type Counts = Record<ChangeKind, number>;
interface BriefCounts {
  found: number;
  missing: number;
  notAsked: number;
  toTick: number;
}

/** “4 asked for and found · 1 missing · 2 not asked for”; without a brief “7 changes”. */
export function sayVerdict({ added, removed, moved, text }: Counts, brief: BriefCounts | null): string {
  const all = added + removed + moved + text;
  if (!brief) return all ? counted(all, 'change') : 'Nothing changed';
  const { found, missing, notAsked } = brief;
  const said = [
    found && `${found} asked for and found`,
    missing && `${missing} missing`,
    notAsked && `${notAsked} not asked for`,
  ].filter(Boolean);
  return said.join(' · ') || 'Nothing was asked for, nothing changed';
}

/** What became of a pair of sheets, where it was not compared line by line. */
export const OUTCOME_WORDS = {
  waiting: 'not compared yet',
  added: 'new',
  removed: 'not there any more',
  unlike: 'nothing in common',
  failed: 'could not be compared',
} as const;
