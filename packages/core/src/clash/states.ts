/** What a clash is from run to run. */
export const CLASH_STATES = ['new', 'standing', 'back', 'gone'] as const;
export type ClashState = (typeof CLASH_STATES)[number];

/** `before`: null where it was never seen. `hasChanged`: since the run before some model is another one; what was new is not, otherwise. */
export function stateAfter(before: ClashState | null, isFound: boolean, hasChanged: boolean): ClashState {
  if (!isFound) return 'gone';
  if (before === null) return 'new';
  if (before === 'gone') return 'back';
  return hasChanged ? 'standing' : before;
}
