import { downloadProduct } from '@kindred/contract/register/register';
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

/** storey → class → element, for one model; elements whose name has `words`. O(elements). */
export function elementTree({ versionId, table }: LoadedModel, title: string, words: string): TreeNode {
  const wanted = words.trim().toLowerCase();
  const storeys = new Map<number, Map<number, TreeNode>>();
  const placed = new Map<number, TreeNode>();
  const root: TreeNode = { key: versionId, label: title, count: 0, children: [], versionId };
  for (let row = 0; row < table.globalId.length; row++) {
    const name = table.name[row]!;
    const className = table.classes[table.class[row]!]!;
    const type = table.types[table.type[row]!] ?? '';
    if (wanted && !`${name} ${className} ${type} ${table.globalId[row]}`.toLowerCase().includes(wanted)) continue;
    const node = table.node[row]!;
    let storey = placed.get(node);
    if (!storey) {
      storey = {
        key: `${versionId}/${node}`,
        label: table.nodes[node]?.name ?? 'Without a storey',
        count: 0,
        children: [],
        versionId,
      };
      placed.set(node, storey);
      storeys.set(node, new Map());
      root.children!.push(storey);
    }
    let group = storeys.get(node)!.get(table.class[row]!);
    if (!group) {
      group = {
        key: `${storey.key}/${className}`,
        label: className.replace(/^Ifc/, ''),
        count: 0,
        children: [],
        versionId,
      };
      storeys.get(node)!.set(table.class[row]!, group);
      storey.children!.push(group);
    }
    group.children!.push({ key: `${versionId}#${row}`, label: name || table.globalId[row]!, count: 1, row, versionId });
    group.count++;
    storey.count++;
    root.count++;
  }
  const elevation = (node: TreeNode): number => table.nodes[Number(node.key.split('/')[1])]?.elevation ?? Infinity;
  root.children!.sort((a, b) => elevation(a) - elevation(b));
  return root;
}

/** All elements at or below a node. */
export function elementsOf(node: TreeNode): { model: string; row: number }[] {
  return node.row !== undefined
    ? [{ model: node.versionId, row: node.row }]
    : (node.children ?? []).flatMap(elementsOf);
}
