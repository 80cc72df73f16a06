import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  decidedIntervals,
  decidingRule,
  LEVELS,
  levelIn,
  SUBJECTS,
  type FolderRule,
  type Level,
} from './folder-rights.ts';
import { numberTree, type TreeFolder } from './folder-tree.ts';

/** Any tree: each folder lies in an earlier one, or at the root. */
const tree: fc.Arbitrary<TreeFolder[]> = fc
  .array(fc.tuple(fc.nat(), fc.string({ minLength: 1, maxLength: 3 })), { maxLength: 30 })
  .map((list) =>
    list.map(([n, name], i) => ({ id: `f${i}`, name, parentId: n % (i + 1) === i ? null : `f${n % (i + 1)}` })),
  );

describe('the folder tree', () => {
  it('numbers a subtree without gaps: in it or below is a comparison', () => {
    fc.assert(
      fc.property(tree, (folders) => {
        const numbered = new Map(numberTree(folders).map((folder) => [folder.id, folder]));
        const below = (id: string, above: string): boolean => {
          for (let at: string | null = id; at; at = folders.find((one) => one.id === at)!.parentId)
            if (at === above) return true;
          return false;
        };
        for (const a of folders)
          for (const b of folders) {
            const [inner, outer] = [numbered.get(a.id)!, numbered.get(b.id)!];
            expect(outer.first <= inner.first && inner.first <= outer.last).toBe(below(a.id, b.id));
          }
        expect([...numbered.values()].map(({ first }) => first)).toEqual(folders.map((_, i) => i + 1));
      }),
    );
  });

  it('refuses a folder within itself, and one below nothing', () => {
    expect(() =>
      numberTree([
        { id: 'a', parentId: 'b', name: 'A' },
        { id: 'b', parentId: 'a', name: 'B' },
      ]),
    ).toThrow(RangeError);
    expect(() => numberTree([{ id: 'a', parentId: 'a', name: 'A' }])).toThrow(RangeError);
    expect(() => numberTree([{ id: 'a', parentId: 'gone', name: 'A' }])).toThrow(RangeError);
  });

  it('counts as people do: Level 2 before Level 10', () => {
    const names = ['Level 10', 'Level 2', 'attic'].map((name, i) => ({ id: String(i), parentId: null, name }));
    expect(numberTree(names).map(({ path }) => path)).toEqual(['attic', 'Level 2', 'Level 10']);
  });
});

/** The rule as it is told: the deciding permission, never above what the roles give. */
function levelAt(rules: readonly FolderRule[], first: number, ceiling: Level): Level {
  const level = decidingRule(rules, first)?.level ?? ceiling;
  return LEVELS[Math.min(LEVELS.indexOf(level), LEVELS.indexOf(ceiling))]!;
}

const rulesOf = (folders: TreeFolder[]): fc.Arbitrary<FolderRule[]> => {
  const numbered = numberTree(folders);
  if (!numbered.length) return fc.constant([]);
  return fc.array(
    fc
      .record({
        at: fc.nat({ max: numbered.length - 1 }),
        subject: fc.constantFrom(...SUBJECTS),
        level: fc.constantFrom(...LEVELS),
      })
      .map(({ at, ...rule }) => ({ ...rule, subjectId: 's', first: numbered[at]!.first, last: numbered[at]!.last })),
    { maxLength: 12 },
  );
};

describe('folder rights', () => {
  const rule = (
    first: number,
    last: number,
    subject: FolderRule['subject'],
    level: FolderRule['level'],
  ): FolderRule => ({ first, last, subject, subjectId: 's', level });
  it('go by the nearest folder, then by what is most particular, then by what is most generous', () => {
    expect(levelAt([rule(1, 9, 'person', 'manage'), rule(3, 5, 'role', 'hidden')], 4, 'manage')).toBe('hidden');
    expect(levelAt([rule(1, 9, 'person', 'see'), rule(1, 9, 'role', 'manage')], 4, 'manage')).toBe('see');
    expect(levelAt([rule(1, 9, 'role', 'see'), rule(1, 9, 'role', 'deliver')], 4, 'manage')).toBe('deliver');
  });
  it('narrow what roles give and never widen it', () => {
    expect(levelAt([rule(1, 9, 'person', 'manage')], 4, 'see')).toBe('see');
    expect(levelAt([], 4, 'deliver')).toBe('deliver');
    expect(decidingRule([rule(5, 6, 'role', 'see')], 4)).toBeUndefined();
  });
  it('are the same from intervals as from the rules, for every folder of every tree', () => {
    fc.assert(
      fc.property(
        tree.chain((folders) => fc.tuple(fc.constant(folders), rulesOf(folders))),
        fc.constantFrom(...LEVELS),
        ([folders, rules], ceiling) => {
          const intervals = decidedIntervals(rules);
          for (let i = 1; i < intervals.length; i++) expect(intervals[i]!.from).toBeGreaterThan(intervals[i - 1]!.to);
          folders.forEach((_, i) => expect(levelIn(intervals, i + 1, ceiling)).toBe(levelAt(rules, i + 1, ceiling)));
        },
      ),
      { numRuns: 500 },
    );
  });
});
