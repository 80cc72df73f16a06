import type { Action, Kind } from '@kindred/core/people/rights';

/** What people ask about, in their words. */
export interface Act {
  words: string;
  kind: Kind;
  action: Action;
  /** Asked of a folder. */
  inFolder?: boolean;
}
export const ACTS: Act[] = [
  { words: 'see what lies in', kind: 'register', action: 'see', inFolder: true },
  { words: 'deliver to', kind: 'register', action: 'add', inFolder: true },
  { words: 'share or publish from', kind: 'register', action: 'change', inFolder: true },
  { words: 'repair names in', kind: 'register', action: 'manage', inFolder: true },
  { words: 'draw markups', kind: 'markup', action: 'add' },
  { words: 'save viewpoints', kind: 'scene', action: 'add' },
  { words: 'raise issues', kind: 'issues', action: 'add' },
  { words: 'start reviews', kind: 'review', action: 'add' },
  { words: 'send transmittals', kind: 'transmittal', action: 'add' },
  { words: 'add people', kind: 'people', action: 'add' },
  { words: 'change naming conventions', kind: 'naming', action: 'manage' },
  { words: 'change the project details', kind: 'project', action: 'change' },
];
