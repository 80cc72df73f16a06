import { counted } from './sentence.ts';
import { changesIn, type ChangeCounts, type ChangeKind } from '@kindred/core/compare/change-counts';
import type { Look } from '@kindred/core/compare/compare-looks';
import type { TablePart } from '@kindred/core/compare/tables';

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
  look?: { before?: Look; after?: Look };
  part?: TablePart;
  picture?: boolean;
}

const HAPPENED = { added: 'Added', removed: 'Removed', moved: 'Moved' };

/** “Moved by 2.12 mm”, “‘Store’ → ‘Kit room’”. */
export function sayChange({ kind, shift, turn, mirrored, before, after, look, part, picture }: Told): string {
  if (kind === 'look') return sayLook(look ?? {});
  if (kind === 'text')
    return before || after ? `“${before ?? '?'}” → “${after ?? '?'}”` : 'Other words, drawn as outlines';
  const words = after ?? before;
  const about = words === undefined ? '' : ` “${words}”`;
  if (mirrored) return `Mirrored${about}`;
  if (turn) return `Turned by ${Math.round(Math.abs((turn * 180) / Math.PI) * 10) / 10}°${about}`;
  const far = shift ? ` by ${(Math.hypot(...shift) * MM).toFixed(2)} mm` : '';
  const what = picture ? ' picture' : part ? ` ${part}` : '';
  return `${HAPPENED[kind]}${what}${far}${about}`;
}

/** “Lines 0.50 mm → 0.25 mm, #aa0000 → #000000”, “Not filled any more (#cccccc)”. */
function sayLook({ before, after }: { before?: Look; after?: Look }): string {
  const one = (after ?? before)!;
  if (!before || !after) return `${ONE_SIDED[one.kind][after ? 'after' : 'before']} (${one.colour})`;
  const said = [
    one.kind === 'line' && differ(weight(before), weight(after)),
    differ(before.colour, after.colour),
    differ(stroke(before), stroke(after)),
  ].filter(Boolean);
  return `${one.kind === 'area' ? 'Fill' : 'Line'} ${said.join(', ')}`;
}
const ONE_SIDED = {
  area: { after: 'Filled now', before: 'Not filled any more' },
  line: { after: 'A line over what was there', before: 'The line over what is there was taken away' },
};
const differ = (was: string, is: string): string => (was === is ? '' : `${was} → ${is}`);
const weight = ({ width }: Look): string => `${(width * MM).toFixed(2)} mm`;
const stroke = ({ dashed }: Look): string => (dashed ? 'dashed' : 'drawn through');

interface BriefCounts {
  found: number;
  missing: number;
  notAsked: number;
  toTick: number;
}

/** “4 asked for and found · 1 missing · 2 not asked for”; without a brief “7 changes”. */
export function sayVerdict(counts: ChangeCounts, brief: BriefCounts | null): string {
  const all = changesIn(counts);
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

/** What of two sheets nobody compared; empty where all was. */
export const sayNotCompared = ({ pictures, unread }: { pictures: boolean; unread: boolean }): string =>
  [
    pictures && 'What the pictures on these sheets show was not compared.',
    unread && 'Words that are outlines on one sheet only, or of another font, were not compared.',
  ]
    .filter(Boolean)
    .join(' ');
