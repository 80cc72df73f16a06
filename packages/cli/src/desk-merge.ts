/** A topic that lies in a folder and on the server: what goes which way. */
export const DESK_FIELDS = [
  'title',
  'topic_type',
  'topic_status',
  'priority',
  'description',
  'labels',
  'assigned_to',
  'due_date',
] as const;
export type DeskField = (typeof DESK_FIELDS)[number];
export type DeskTopic = Partial<Record<DeskField, unknown>>;

export interface Merged {
  topic: DeskTopic;
  /** Something of it was changed in the folder alone: the server has to hear of it. */
  toServer: boolean;
  /** Changed on both sides, and not alike: what the server says counts. */
  conflicts: { field: DeskField; mine: unknown; theirs: unknown }[];
}

const isSame = (a: unknown, b: unknown): boolean => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** `last`: as both had it when they were in step. */
export function mergeTopic(last: DeskTopic, mine: DeskTopic, theirs: DeskTopic): Merged {
  const merged: Merged = { topic: {}, toServer: false, conflicts: [] };
  for (const field of DESK_FIELDS) {
    const [was, own, other] = [last[field], mine[field], theirs[field]];
    const value = isSame(was, own) || !isSame(was, other) ? other : own;
    if (value !== undefined) merged.topic[field] = value;
    if (isSame(own, other) || isSame(was, own)) continue;
    if (isSame(was, other)) merged.toServer = true;
    else merged.conflicts.push({ field, mine: own, theirs: other });
  }
  return merged;
}
