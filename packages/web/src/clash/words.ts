/** How clashes are called on the screen. */
import type { Clash, ClashCounts } from '@kindred/contract/clash/clashes';
import type { ClashIgnore, ClashKind } from '@kindred/core/clash/rule';
import { counted } from '@kindred/words/sentence';

/** A clash that was accepted is in no other pile. */
export const CLASH_PILES = ['new', 'standing', 'back', 'accepted', 'gone'] as const;
export type ClashPile = (typeof CLASH_PILES)[number];
export const pileOf = ({ state, accepted }: Pick<Clash, 'state' | 'accepted'>): ClashPile =>
  accepted && state !== 'gone' ? 'accepted' : state;

/** Sign and colour of each pile. */
export const PILE_LOOK: Record<ClashPile, { sign: string; colour: string; said: string }> = {
  new: { sign: '✦', colour: '#b3261e', said: 'new' },
  standing: { sign: '●', colour: '#8a5a00', said: 'standing' },
  back: { sign: '↺', colour: '#6a3d9a', said: 'back again' },
  accepted: { sign: '✓', colour: '#3d6b4f', said: 'accepted' },
  gone: { sign: '○', colour: '#6b6f72', said: 'gone' },
};

export const KIND_WORDS: Record<ClashKind, string> = {
  hard: 'run into each other',
  clearance: 'too near',
  duplicate: 'the same twice',
};
export const IGNORE_WORDS: Record<ClashIgnore, string> = {
  'same model': 'elements of one model',
  'same system': 'elements of one system',
  'hosted elements': 'doors and windows in their walls',
  insulation: 'insulation',
};

const millimetres = (metres: number): string => `${Math.round(metres * 1e4) / 10} mm`;
/** `150 mm deep`, `35 mm apart`, `the same twice`. */
export function sayClash({ kind, depth, gap }: Pick<Clash, 'kind' | 'depth' | 'gap'>): string {
  if (kind === 'duplicate') return KIND_WORDS.duplicate;
  if (kind === 'clearance') return gap ? `${millimetres(gap)} apart` : 'they touch';
  return depth === null ? 'they meet; how deep is not known, a surface is open' : `${millimetres(depth)} deep`;
}

/** `7 open, 2 of them new, 3 accepted`. */
export function sayOpen(counts: ClashCounts): string {
  const open = counts.new + counts.standing + counts.back;
  const fresh = counts.new + counts.back;
  const said = [
    open ? `${open} open${fresh ? `, ${fresh} of them new` : ''}` : 'nothing open',
    counts.accepted && `${counts.accepted} accepted`,
    counts.gone && `${counted(counts.gone, 'clash', 'clashes')} gone`,
  ];
  return said.filter(Boolean).join(', ');
}
