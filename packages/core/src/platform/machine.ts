/** A state machine as a table of transitions: state → action → next state. */
export type Transitions<State extends string, Act extends string> = Record<State, Partial<Record<Act, State>>>;

/** The next state, or undefined where the table has no such transition. */
export function next<State extends string, Act extends string>(
  table: Transitions<State, Act>,
  state: State,
  action: Act,
): State | undefined {
  return table[state][action];
}

/** What may be done in a state, in the table's order. */
export function actionsIn<State extends string, Act extends string>(
  table: Transitions<State, Act>,
  state: State,
): Act[] {
  return Object.keys(table[state]) as Act[];
}
