/** Kinds of changes, and how many of each there are. */
export const CHANGE_KINDS = ['added', 'removed', 'moved', 'text', 'look'] as const;
export type ChangeKind = (typeof CHANGE_KINDS)[number];
export type ChangeCounts = Record<ChangeKind, number>;

export const NO_CHANGES: Readonly<ChangeCounts> = { added: 0, removed: 0, moved: 0, text: 0, look: 0 };

export function countChanges(changes: readonly { kind: ChangeKind }[]): ChangeCounts {
  const counts = { ...NO_CHANGES };
  for (const { kind } of changes) counts[kind]++;
  return counts;
}
export const addCounts = (a: ChangeCounts, b: ChangeCounts): ChangeCounts => {
  const sum = { ...a };
  for (const kind of CHANGE_KINDS) sum[kind] += b[kind];
  return sum;
};
export const changesIn = (counts: ChangeCounts): number => CHANGE_KINDS.reduce((sum, kind) => sum + counts[kind], 0);
