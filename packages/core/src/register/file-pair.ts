import { splitFileName } from '../naming/file-name.ts';
import { claimedKind } from './file-kind.ts';

/** Whether people look at a file of this name, or it is what an authoring program works on. */
const isShown = (fileName: string): boolean => claimedKind(splitFileName(fileName).extension) !== undefined;

/**
 * Files that arrive together under one code: the native files go with the first that can be looked at, and are no versions of
 * their own. Answers the files that become versions, in their order, each with its natives. O(files).
 */
export function withNatives<F>(
  files: readonly F[],
  codeOf: (file: F) => string,
  nameOf: (file: F) => string,
): { file: F; natives: F[] }[] {
  const shown = new Map<string, { file: F; natives: F[] }>();
  for (const file of files)
    if (isShown(nameOf(file)) && !shown.has(codeOf(file))) shown.set(codeOf(file), { file, natives: [] });
  return files.flatMap((file) => {
    const first = shown.get(codeOf(file));
    if (first?.file === file) return [first];
    if (!first || isShown(nameOf(file))) return [{ file, natives: [] }];
    first.natives.push(file);
    return [];
  });
}
