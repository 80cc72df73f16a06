/**
 * Rights on folders. Two gates, both must open: a role says what kind of work a person may do in the register,
 * a folder's permissions say where. A permission holds for the folder and all below, until a nearer one that concerns
 * the same person takes its place; in one folder the one for the person counts before team, company and role.
 */
export const LEVELS = ['hidden', 'see', 'deliver', 'manage'] as const;
export type Level = (typeof LEVELS)[number];
export const SUBJECTS = ['person', 'team', 'company', 'role'] as const;
export type Subject = (typeof SUBJECTS)[number];

/** A permission that concerns the person in question, with the numbers of its folder's subtree. */
export interface FolderRule {
  first: number;
  last: number;
  subject: Subject;
  subjectId: string;
  level: Level;
}

const rank = (level: Level): number => LEVELS.indexOf(level);
export const atLeast = (level: Level, needed: Level): boolean => rank(level) >= rank(needed);
const lower = (a: Level, b: Level): Level => (rank(a) < rank(b) ? a : b);

/** Nearest folder first, then the most particular subject, then the most generous. */
const before = (a: FolderRule, b: FolderRule): number =>
  b.first - a.first || SUBJECTS.indexOf(a.subject) - SUBJECTS.indexOf(b.subject) || rank(b.level) - rank(a.level);

/** The permission that decides for the folder with number `first`, if any concerns the person. */
export function decidingRule(rules: readonly FolderRule[], first: number): FolderRule | undefined {
  let best: FolderRule | undefined;
  for (const rule of rules)
    if (rule.first <= first && first <= rule.last && (!best || before(rule, best) < 0)) best = rule;
  return best;
}

export interface Interval {
  from: number;
  /** Inclusive. */
  to: number;
  level: Level;
}

/** The decided ranges of the tree, disjoint and in order; between them no permission concerns the person. O(n log n). */
export function decidedIntervals(rules: readonly FolderRule[]): Interval[] {
  const sorted = [...rules].sort((a, b) => a.first - b.first || before(a, b));
  const winners = sorted.filter((rule, i) => i === 0 || rule.first !== sorted[i - 1]!.first);
  const intervals: Interval[] = [];
  const open: FolderRule[] = [];
  let at = 0;
  const fillTo = (to: number): void => {
    const top = open.at(-1);
    if (top && at <= to) intervals.push({ from: at, to, level: top.level });
    at = Math.max(at, to + 1);
  };
  const closeBefore = (first: number): void => {
    while (open.length && open.at(-1)!.last < first) {
      fillTo(open.at(-1)!.last);
      open.pop();
    }
  };
  for (const rule of winners) {
    closeBefore(rule.first);
    fillTo(rule.first - 1);
    at = rule.first;
    open.push(rule);
  }
  closeBefore(Infinity);
  return intervals;
}

/** What remains at `first` of `ceiling`, the level that the roles give: O(log n), for pages of rows. */
export function levelIn(intervals: readonly Interval[], first: number, ceiling: Level): Level {
  let [low, high] = [0, intervals.length - 1];
  while (low <= high) {
    const middle = (low + high) >> 1;
    const interval = intervals[middle]!;
    if (first < interval.from) high = middle - 1;
    else if (first > interval.to) low = middle + 1;
    else return lower(interval.level, ceiling);
  }
  return ceiling;
}
