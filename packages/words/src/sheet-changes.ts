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
