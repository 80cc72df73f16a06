import type { Convention } from '../naming/convention.ts';
import { decodeName } from '../naming/decode-name.ts';

export interface FolderToFind {
  id: string;
  /** Names from the root, joined by “ / ”. */
  path: string;
}

/** `Drawings` and `drawing` are one word. */
const bare = (words: string): string =>
  words
    .trim()
    .toLowerCase()
    .split(/\s+/)
    .map((word) => word.replace(/s$/, ''))
    .join(' ');

/** How well a folder's name fits what a code says: whole, or as one of its words (“Services” for building services). */
function fit(name: string, said: ReadonlySet<string>): number {
  const wanted = bare(name);
  if (said.has(wanted)) return 2;
  for (const meaning of said) if (meaning.split(' ').includes(wanted)) return 1;
  return 0;
}

/**
 * The folder that the parts of a code name best: `…-D-S-0101`, a drawing of the structure, goes to “Structure / Drawings”. Of
 * several that fit alike `here`, if it is among them, else the first. Undefined where the code names none of them.
 */
export function folderFor<F extends FolderToFind>(
  code: string,
  folders: readonly F[],
  conventionIn: (folderId: string) => Convention | undefined,
  here = '',
): F | undefined {
  const meanings = new Map<Convention, Set<string>>();
  function meaningsIn(convention: Convention): Set<string> {
    const known = meanings.get(convention);
    if (known) return known;
    const parts = decodeName(convention, code).map(({ meaning }) => bare(meaning));
    const said = new Set(parts.filter(Boolean));
    meanings.set(convention, said);
    return said;
  }
  let best: { folder: F; fits: number } | undefined;
  for (const folder of folders) {
    const convention = conventionIn(folder.id);
    if (!convention) continue;
    const said = meaningsIn(convention);
    const fits = folder.path.split(' / ').reduce((sum, name) => sum + fit(name, said), 0);
    if (fits && (!best || fits > best.fits || (fits === best.fits && folder.id === here))) best = { folder, fits };
  }
  return best?.folder;
}
