/** What differs between two versions, by name: more or fewer of something, come or gone. */
export interface CountChange {
  name: string;
  kind: 'came' | 'went' | 'altered';
  before: number;
  after: number;
}

/** Names whose counts differ, in the order of their names. */
export function countChanges(before: ReadonlyMap<string, number>, after: ReadonlyMap<string, number>): CountChange[] {
  const names = [...new Set([...before.keys(), ...after.keys()])].sort();
  return names.flatMap((name): CountChange[] => {
    const [was, is] = [before.get(name) ?? 0, after.get(name) ?? 0];
    if (was === is) return [];
    return [{ name, kind: was === 0 ? 'came' : is === 0 ? 'went' : 'altered', before: was, after: is }];
  });
}

export const METADATA_KEYS = ['title', 'revision', 'status', 'classification', 'description'] as const;
export type Metadata = Record<(typeof METADATA_KEYS)[number], string>;

/** What a version says otherwise than the one before it. */
export function metadataChanges(
  before: Metadata,
  after: Metadata,
): { key: keyof Metadata; before: string; after: string }[] {
  return METADATA_KEYS.filter((key) => before[key] !== after[key]).map((key) => ({
    key,
    before: before[key],
    after: after[key],
  }));
}
