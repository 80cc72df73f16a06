import { downloadProduct } from '@kindred/contract/register/register';
import { elementTree } from '@kindred/core/scene/element-tree';
import { decodeScene, type ScenePackage } from '@kindred/core/scene/package';
import type { ElementTable } from '@kindred/core/scene/prepare-model';
import { addressOf } from '../platform/api.ts';

export interface LoadedModel {
  versionId: string;
  table: ElementTable;
}

/** The scene package, and the element table, of a prepared version: the first can be drawn before the second is read. */
export function loadModel(
  projectId: string,
  versionId: string,
): { pack: Promise<ScenePackage>; table: Promise<ElementTable> } {
  const get = async (product: string): Promise<globalThis.Response> => {
    const response = await fetch(addressOf(downloadProduct, { projectId, versionId, product }));
    if (!response.ok) throw new Error('This model is not there, is not prepared yet, or is not shared with you.');
    return response;
  };
  return {
    pack: get('scene')
      .then((response) => response.arrayBuffer())
      .then(decodeScene),
    table: get('elements').then((response) => response.json() as Promise<ElementTable>),
  };
}

export interface TreeNode {
  key: string;
  label: string;
  /** Number of elements below. */
  count: number;
  children?: TreeNode[];
  /** Set on leaves. */
  row?: number;
  versionId: string;
}

/** storey → class → element, for one model; elements that have `words`. O(elements). */
export function treeOf({ versionId, table }: LoadedModel, title: string, words: string): TreeNode {
  const storeys = elementTree(table, words).map(({ node, count, classes }): TreeNode => ({
    key: `${versionId}/${node}`,
    label: table.nodes[node]?.name ?? 'Without a storey',
    count,
    versionId,
    children: classes.map((group) => ({
      key: `${versionId}/${node}/${group.class}`,
      label: table.classes[group.class]!.replace(/^Ifc/, ''),
      count: group.rows.length,
      versionId,
      children: group.rows.map((row) => ({
        key: `${versionId}#${row}`,
        label: table.name[row] || table.globalId[row]!,
        count: 1,
        row,
        versionId,
      })),
    })),
  }));
  const count = storeys.reduce((sum, storey) => sum + storey.count, 0);
  return { key: versionId, label: title, count, children: storeys, versionId };
}

/** All elements at or below a node. */
export function elementsOf(node: TreeNode): { model: string; row: number }[] {
  return node.row !== undefined
    ? [{ model: node.versionId, row: node.row }]
    : (node.children ?? []).flatMap(elementsOf);
}
