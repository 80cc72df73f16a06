/** Changes of a model as a tree: by what happened, by storey or by class; a branch says how many it has. */
import { CHANGE_KINDS, type ChangeKind } from '@kindred/core/compare/change-counts';
import type { ModelChange } from '@kindred/core/compare/list-model-changes';
import { MODEL_CHANGE_WORDS } from '@kindred/words/model-changes';

export interface ChangeNode {
  key: string;
  label: string;
  count: number;
  children?: ChangeNode[];
  /** On leaves. */
  change?: ModelChange;
}
export const CHANGE_TREES = ['change', 'storey', 'class'] as const;
export type ChangeTree = (typeof CHANGE_TREES)[number];

const plain = (text: string): string => text.toLowerCase();

/** What somebody looks for: in the name, the class, the storey, the GlobalId, and in the values that changed. */
export function filterChanges(
  changes: readonly ModelChange[],
  kinds: readonly ChangeKind[],
  words: string,
): ModelChange[] {
  const wanted = plain(words).split(/\s+/).filter(Boolean);
  return changes.filter((change) => {
    if (!kinds.includes(change.kind)) return false;
    if (!wanted.length) return true;
    const { name, storey, globalId, formerId, properties } = change;
    const said = properties.flatMap(({ set, name: of, before, after }) => [set, of, before?.value, after?.value]);
    const all = plain([name, change.class, storey, globalId, formerId, ...said].join(' '));
    return wanted.every((word) => all.includes(word));
  });
}

/** O(n log n). */
export function changeTree(changes: readonly ModelChange[], by: ChangeTree): ChangeNode[] {
  const keyOf = (change: ModelChange): string =>
    by === 'change' ? change.kind : by === 'storey' ? change.storey || 'On no storey' : plainClass(change.class);
  const groups = new Map<string, ModelChange[]>();
  for (const change of changes) {
    const key = keyOf(change);
    const group = groups.get(key);
    if (group) group.push(change);
    else groups.set(key, [change]);
  }
  const order = (key: string): number => (by === 'change' ? CHANGE_KINDS.indexOf(key as ChangeKind) : 0);
  return [...groups]
    .sort(([a], [b]) => order(a) - order(b) || a.localeCompare(b, undefined, { numeric: true }))
    .map(([key, group]) => ({
      key: `${by} ${key}`,
      label: by === 'change' ? MODEL_CHANGE_WORDS[key as ChangeKind] : key,
      count: group.length,
      children: group.map((change) => ({
        ...{ key: String(change.number), change, count: 1 },
        label: change.name || `${plainClass(change.class)} without a name`,
      })),
    }));
}

export const plainClass = (name: string): string => name.replace(/^Ifc/, '');
