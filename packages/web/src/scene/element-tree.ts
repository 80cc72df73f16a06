/** Trees of elements: by what one likes to find them. */
import { OF_CODE, type PropertyKey } from '@kindred/core/scene/element-index';
import { elementTree } from '@kindred/core/scene/element-tree';
import { levelsOf } from '@kindred/core/scene/levels';
import { elementNumber, rowOf, slotOf } from './engine/element-numbers.ts';
import type { Group } from './facts/facts-worker.ts';
import type { LoadedModel } from './models.ts';

export interface TreeNode {
  key: string;
  label: string;
  /** Number of elements below. */
  count: number;
  children?: TreeNode[];
  /** Set on leaves. */
  element?: number;
}

export const TREES = [
  'storey',
  'level',
  'class',
  'type',
  'material',
  'system',
  'classification',
  'discipline',
  'party',
] as const;
export type TreeKind = (typeof TREES)[number];
/** The property by which a tree groups; the trees of storeys and levels come from the models themselves. */
export const TREE_KEYS: Record<Exclude<TreeKind, 'storey' | 'level'>, PropertyKey> = {
  class: { set: '', name: 'Class' },
  type: { set: '', name: 'Type' },
  material: { set: '', name: 'Material' },
  system: { set: '', name: 'System' },
  classification: { set: '', name: 'Classification' },
  discipline: { set: OF_CODE, name: 'Discipline' },
  party: { set: OF_CODE, name: 'Originator' },
};

const plainClass = (name: string): string => name.replace(/^Ifc/, '');
const nameOf = ({ table }: LoadedModel, row: number): string => table.name[row] || table.globalId[row]!;
const countOf = (children: readonly TreeNode[]): number => children.reduce((sum, { count }) => sum + count, 0);

/** storey → class → element, for one model. `only`: rows that are kept. O(elements). */
export function storeyTree(model: LoadedModel, title: string, only: ReadonlySet<number> | null): TreeNode {
  const { versionId, slot, table } = model;
  const children = elementTree(table, only).map(({ node, count, classes }): TreeNode => ({
    key: `${versionId}/${node}`,
    label: table.nodes[node]?.name ?? 'Without a storey',
    count,
    children: classes.map((group) => ({
      key: `${versionId}/${node}/${group.class}`,
      label: plainClass(table.classes[group.class]!),
      count: group.rows.length,
      children: group.rows.map((row) => leaf(model, elementNumber(slot, row))),
    })),
  }));
  return { key: versionId, label: title, count: countOf(children), children };
}

/** level → class → element, over all models. `only`: rows of each that are kept. O(elements). */
export function levelTree(
  models: readonly LoadedModel[],
  only: (slot: number) => ReadonlySet<number> | null,
): TreeNode[] {
  const levels = levelsOf(models.map(({ table }) => table.nodes));
  const names = [...levels.map(({ name, elevation }) => name || `${elevation.toFixed(2)} m`), 'On no level'];
  /** For each level by class. */
  const found = names.map(() => new Map<string, TreeNode[]>());
  models.forEach((model, i) => {
    const levelOf = new Map(levels.flatMap(({ nodes }, level) => nodes[i]!.map((node) => [node, level] as const)));
    for (const { node, classes } of elementTree(model.table, only(model.slot))) {
      const byClass = found[levelOf.get(node) ?? levels.length]!;
      for (const group of classes) {
        const name = model.table.classes[group.class]!;
        const leaves = byClass.get(name) ?? byClass.set(name, []).get(name)!;
        for (const row of group.rows) leaves.push(leaf(model, elementNumber(model.slot, row)));
      }
    }
  });
  return found.flatMap((byClass, level) => {
    const children = [...byClass].map(([name, leaves]): TreeNode => ({
      ...{ key: `level/${level}/${name}`, label: plainClass(name), count: leaves.length },
      children: leaves,
    }));
    return children.length ? [{ key: `level/${level}`, label: names[level]!, count: countOf(children), children }] : [];
  });
}

/** value → element, over all models. `none`: what elements are called of which nothing is said. */
export function groupTree(groups: readonly Group[], models: readonly LoadedModel[], none: string): TreeNode[] {
  const bySlot = new Map(models.map((model) => [model.slot, model]));
  return groups.map(({ value, elements }) => {
    const children = [...elements].flatMap((element) => {
      const model = bySlot.get(slotOf(element));
      return model ? [leaf(model, element)] : [];
    });
    const label = value === null ? none : plainClass(String(value));
    return { key: `value/${value === null ? '' : String(value)}`, label, count: children.length, children };
  });
}

const leaf = (model: LoadedModel, element: number): TreeNode => ({
  key: `element/${element}`,
  label: nameOf(model, rowOf(element)),
  count: 1,
  element,
});

/** All elements at or below a node. */
export const elementsOf = (node: TreeNode): number[] =>
  node.element !== undefined ? [node.element] : (node.children ?? []).flatMap(elementsOf);
