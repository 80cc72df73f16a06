/** What a clash is from run to run. */
export const CLASH_STATES = ['new', 'standing', 'back', 'gone'] as const;
export type ClashState = (typeof CLASH_STATES)[number];

/** `before`: null where it was never seen. */
export function stateAfter(before: ClashState | null, isFound: boolean): ClashState {
  if (!isFound) return 'gone';
  if (before === null) return 'new';
  return before === 'gone' ? 'back' : 'standing';
}
