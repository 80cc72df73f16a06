/** Clashes as a tree: by cause, by storey, by who sees to them; a branch says how many it has. */
import type { Clash, ClashGroup } from '@kindred/contract/clash/clashes';
import { pileOf, sayClash, type ClashPile } from './words.ts';

export interface ClashNode {
  key: string;
  label: string;
  count: number;
  children?: ClashNode[];
  /** On leaves. */
  clash?: Clash;
}
export const CLASH_TREES = ['cause', 'storey', 'responsible'] as const;
export type ClashTree = (typeof CLASH_TREES)[number];

/** People of the trade know the classes without their prefix. */
export const plainNames = (text: string): string => text.replace(/\bIfc(?=[A-Z])/g, '');
const nameOf = ({ name, class: of }: Clash['a']): string => name || plainNames(of);
export const namePair = ({ a, b }: Clash): string => `${nameOf(a)} × ${nameOf(b)}`;

/** Those of the piles that are shown, in which all words are said. */
export function filterClashes(clashes: readonly Clash[], piles: readonly ClashPile[], words: string): Clash[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  return clashes.filter((clash) => {
    if (!piles.includes(pileOf(clash))) return false;
    const { a, b, number, assignee, issue } = clash;
    const elements = [a, b].flatMap((one) => [one.name, one.class, one.type, one.storey, one.globalId]);
    const all = [...elements, `${number}`, assignee?.name ?? '', issue ? `issue ${issue.number}` : ''];
    const said = all.join(' ').toLowerCase();
    return wanted.every((word) => said.includes(word));
  });
}

export function countPiles(clashes: readonly Clash[]): Record<ClashPile, number> {
  const counts: Record<ClashPile, number> = { new: 0, standing: 0, back: 0, accepted: 0, gone: 0 };
  for (const clash of clashes) counts[pileOf(clash)]++;
  return counts;
}

/** The branches with most first. O(n log n). */
export function clashTree(clashes: readonly Clash[], groups: readonly ClashGroup[], by: ClashTree): ClashNode[] {
  const names = new Map(groups.map(({ id, name }) => [id, plainNames(name)]));
  const keyOf = ({ groupId, a, b, assignee }: Clash): string =>
    by === 'cause'
      ? groupId
      : by === 'storey'
        ? a.storey || b.storey || 'On no storey'
        : (assignee?.name ?? 'Nobody yet');
  const branches = new Map<string, Clash[]>();
  for (const clash of clashes) {
    const key = keyOf(clash);
    const branch = branches.get(key);
    if (branch) branch.push(clash);
    else branches.set(key, [clash]);
  }
  return [...branches]
    .sort(([, p], [, q]) => q.length - p.length)
    .map(([key, own]) => ({
      key: `${by} ${key}`,
      label: by === 'cause' ? (names.get(key) ?? namePair(own[0]!)) : key,
      count: own.length,
      children: own.map((clash) => ({
        ...{ key: clash.id, clash, count: 1, label: `${namePair(clash)}, ${sayClash(clash)}` },
      })),
    }));
}

/** How many there are between the disciplines, or whatever else `sideOf` names; whichever is named first. */
export function clashMatrix(
  clashes: readonly Clash[],
  sideOf: (element: Clash['a']) => string,
): { sides: string[]; count(a: string, b: string): number } {
  const counts = new Map<string, number>();
  const sides = new Set<string>();
  const keyOf = (a: string, b: string): string => JSON.stringify([a, b].sort());
  for (const { a, b } of clashes) {
    const [one, other] = [sideOf(a), sideOf(b)];
    sides.add(one).add(other);
    const key = keyOf(one, other);
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  return { sides: [...sides].sort(), count: (a, b) => counts.get(keyOf(a, b)) ?? 0 };
}
