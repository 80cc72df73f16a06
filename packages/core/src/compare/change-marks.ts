/** How kinds of changes are marked: each with a sign and a dash of its own, never by its colour alone. */
import type { ChangeKind } from './change-counts.ts';

export interface ChangeMark {
  sign: string;
  /** `#rrggbb`. */
  colour: string;
  /** Lengths of dash and gap in points; none: drawn through. */
  dash: readonly number[];
}
export const CHANGE_MARKS: Record<ChangeKind, ChangeMark> = {
  added: { sign: '+', colour: '#14706A', dash: [] },
  removed: { sign: '−', colour: '#B54C2C', dash: [5, 3] },
  moved: { sign: '→', colour: '#6B3F69', dash: [] },
  text: { sign: 'T', colour: '#1D5B79', dash: [] },
  look: { sign: '~', colour: '#665C1E', dash: [1.5, 2.5] },
};
