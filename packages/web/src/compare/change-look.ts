/** How kinds of changes look: each with a sign and a way of drawing of its own, never by its colour alone. */
import type { ChangeKind } from '@kindred/core/compare/compare-sheets';

export const CHANGE_LOOK: Record<ChangeKind, { word: string; sign: string; colour: string; dash: string }> = {
  added: { word: 'added', sign: '+', colour: 'var(--action)', dash: '' },
  removed: { word: 'removed', sign: '−', colour: 'var(--needs-you)', dash: '5 3' },
  moved: { word: 'moved', sign: '→', colour: 'var(--formal)', dash: '' },
  text: { word: 'words', sign: 'T', colour: 'var(--info)', dash: '' },
};
