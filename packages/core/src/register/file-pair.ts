import { splitFileName } from '../naming/file-name.ts';
import { claimedKind } from './file-kind.ts';
import type { ContainerState } from './states.ts';

/** Whether people look at a file of this name, or it is what an authoring program works on. */
export const isShown = (fileName: string): boolean => claimedKind(splitFileName(fileName).extension) !== undefined;
const extensionOf = (fileName: string): string => splitFileName(fileName).extension.toLowerCase();

interface DeliveredFile {
  fileName: string;
  /** As its deliverer wrote it; as before where they wrote none. */
  revision?: string | undefined;
}

/** The newest version of a code, as whoever delivers to it sees it. */
export interface NewestVersion {
  fileName: string;
  state: ContainerState;
  revision: string;
  /** Names of its native files. */
  natives: readonly string[];
}

const isOpen = ({ state, revision }: NewestVersion, wanted: string | undefined): boolean =>
  state === 'work in progress' && (wanted ?? revision) === revision;

/** What people look at comes after its native file: the version that it makes has both. */
export const takesAlong = (newest: NewestVersion, { fileName, revision }: DeliveredFile): boolean =>
  isOpen(newest, revision) && !isShown(newest.fileName) && isShown(fileName);

/** A native file that comes after what people look at goes with that version, as long as nobody else has got it. */
export const goesWith = (newest: NewestVersion, { fileName, revision }: DeliveredFile): boolean =>
  isOpen(newest, revision) &&
  isShown(newest.fileName) &&
  !isShown(fileName) &&
  !newest.natives.some((native) => extensionOf(native) === extensionOf(fileName));

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
