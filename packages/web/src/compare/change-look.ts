/** How kinds of changes look on the screen. */
import { CHANGE_MARKS } from '@kindred/core/compare/change-marks';
import type { ChangeKind } from '@kindred/core/compare/change-counts';

const look = (kind: ChangeKind, word: string) => ({
  ...{
    word,
    sign: CHANGE_MARKS[kind].sign,
    colour: CHANGE_MARKS[kind].colour,
    dash: CHANGE_MARKS[kind].dash.join(' '),
  },
});
export const CHANGE_LOOK = {
  added: look('added', 'added'),
  removed: look('removed', 'removed'),
  moved: look('moved', 'moved'),
  text: look('text', 'words'),
  look: look('look', 'looks'),
} satisfies Record<ChangeKind, unknown>;
