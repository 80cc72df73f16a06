import type { ElementTable } from '@kindred/core/scene/prepare-model';
import { describe, expect, it } from 'vitest';
import { elementNumber } from './engine/element-numbers.ts';
import { elementsOf, levelTree, storeyTree, type TreeNode } from './element-tree.ts';
import type { LoadedModel } from './models.ts';

const storey = (name: string, elevation: number) => ({ name, elevation, class: 'IfcBuildingStorey', parent: -1 });
function model(slot: number, nodes: ReturnType<typeof storey>[], node: number[], classes: string[]): LoadedModel {
  const names = [...new Set(classes)];
  const table = {
    nodes,
    node,
    classes: names,
    class: classes.map((name) => names.indexOf(name)),
    globalId: node.map((_, row) => `${slot}-${row}`),
    name: node.map((_, row) => `Element ${slot}.${row}`),
  };
  return { slot, versionId: `v${slot}`, table: table as unknown as ElementTable };
}
const walls = model(
  1,
  [storey('Ground', 0), storey('Upper', 3.9)],
  [0, 0, 1, -1],
  ['IfcWall', 'IfcDoor', 'IfcWall', 'IfcWall'],
);
const steel = model(2, [storey('L2', 3.8), storey('L1', -0.1)], [0, 1], ['IfcBeam', 'IfcWall']);
const told = (nodes: readonly TreeNode[]) =>
  nodes.map(({ label, count, children }) => [
    label,
    count,
    (children ?? []).map((child) => `${child.label} ${child.count}`),
  ]);

describe('trees of elements', () => {
  it('by level take the storeys of all models together, whatever they are called', () => {
    const tree = levelTree([walls, steel], () => null);
    expect(told(tree)).toEqual([
      ['Ground', 3, ['Wall 2', 'Door 1']],
      ['Upper', 2, ['Wall 1', 'Beam 1']],
      ['On no level', 1, ['Wall 1']],
    ]);
    expect(elementsOf(tree[1]!)).toEqual([elementNumber(1, 2), elementNumber(2, 0)]);
    const keys = tree.flatMap((node) => [node.key, ...node.children!.map(({ key }) => key)]);
    expect(new Set(keys).size).toBe(keys.length);
  });

  it('hold only what was found', () => {
    expect(told(levelTree([walls, steel], (slot) => new Set(slot === 2 ? [1] : [])))).toEqual([
      ['Ground', 1, ['Wall 1']],
    ]);
    expect(told([storeyTree(walls, 'Walls', new Set([2]))])).toEqual([['Walls', 1, ['Upper 1']]]);
  });
});
