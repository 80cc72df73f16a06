/**
 * Folders numbered in the order of their tree: a folder's subtree is the numbers from `first` to `last`,
 * so that “in it or below” is one comparison (Celko's nested intervals).
 */
export interface TreeFolder {
  id: string;
  parentId: string | null;
  name: string;
}
export interface NumberedFolder {
  id: string;
  first: number;
  last: number;
  /** Names from the root, joined by “ / ”. */
  path: string;
  depth: number;
}

const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** In the order of the tree. Throws RangeError when a folder lies within itself or below one that is not there. */
export function numberTree(folders: readonly TreeFolder[]): NumberedFolder[] {
  const children = new Map<string | null, TreeFolder[]>();
  for (const folder of folders) {
    const siblings = children.get(folder.parentId);
    if (siblings) siblings.push(folder);
    else children.set(folder.parentId, [folder]);
  }
  for (const siblings of children.values())
    siblings.sort((a, b) => collator.compare(a.name, b.name) || (a.id < b.id ? -1 : 1));
  const numbered: NumberedFolder[] = [];
  const visit = (parentId: string | null, above: string, depth: number): void => {
    for (const { id, name } of children.get(parentId) ?? []) {
      const path = above ? `${above} / ${name}` : name;
      const folder = { id, first: numbered.length + 1, last: 0, path, depth };
      numbered.push(folder);
      visit(id, path, depth + 1);
      folder.last = numbered.length;
    }
  };
  visit(null, '', 0);
  if (numbered.length !== folders.length) throw new RangeError('A folder would lie within itself.');
  return numbered;
}
