/** The changes between two versions of a model as a list: each with what the element is, in the kinds that drawings have too. */
import { storeyOf } from '../scene/storeys.ts';
import type { ElementTable } from '../scene/prepare-model.ts';
import type { ChangeKind } from './change-counts.ts';
import type { ElementChange, ModelComparison } from './compare-models.ts';

export interface ModelChange extends Omit<ElementChange, 'before' | 'after' | 'renamed'> {
  /** From 1. */
  number: number;
  /** `look`: another shape; `text`: only what is said of it. */
  kind: ChangeKind;
  /** Rows of the element tables; null where it is not in that version. */
  before: number | null;
  after: number | null;
  globalId: string;
  /** Null where it kept its GlobalId. */
  formerId: string | null;
  class: string;
  name: string;
  storey: string;
}

/** Added, removed, changed; each in the order of its table. O(n). */
export function listModelChanges(
  before: ElementTable,
  after: ElementTable,
  comparison: ModelComparison,
): ModelChange[] {
  const { added, removed } = comparison;
  const nothing = { formerId: null, moved: null, turned: null, geometry: null, properties: [] };
  return [
    ...added.map((row) => ({ kind: 'added' as const, before: null, after: row, ...aboutOf(after, row), ...nothing })),
    ...removed.map((row) => ({
      ...{ kind: 'removed' as const, before: row, after: null },
      ...aboutOf(before, row),
      ...nothing,
    })),
    ...comparison.changed.map(({ renamed, ...change }) => ({
      ...change,
      kind: kindOf(change),
      ...aboutOf(after, change.after),
      formerId: renamed ? before.globalId[change.before]! : null,
    })),
  ].map((change, i) => ({ number: i + 1, ...change }));
}

const kindOf = ({ geometry, moved, turned }: Omit<ElementChange, 'renamed'>): ChangeKind =>
  geometry ? 'look' : moved || turned ? 'moved' : 'text';

const aboutOf = (table: ElementTable, row: number) => ({
  globalId: table.globalId[row]!,
  class: table.classes[table.class[row]!]!,
  name: table.name[row]!,
  storey: table.nodes[storeyOf(table.nodes, table.node[row]!)]?.name ?? '',
});
