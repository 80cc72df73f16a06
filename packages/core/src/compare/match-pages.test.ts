import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { matchPages, type SheetOfSet } from './match-pages.ts';

const sheet = (page: number, number: string, title = '', words: string[] = []): SheetOfSet => ({
  page,
  number,
  title,
  words,
});
const said = (before: SheetOfSet[], after: SheetOfSet[]) =>
  matchPages(before, after).map((pair) => [pair.before?.page ?? null, pair.after?.page ?? null]);

describe('matchPages', () => {
  it('pairs by number whatever the order, dashes and blanks', () => {
    expect(said([sheet(1, 'A-101'), sheet(2, 'A-102')], [sheet(1, 'A–102'), sheet(2, 'a 101')])).toEqual([
      [2, 1],
      [1, 2],
    ]);
  });
  it('pairs what was renumbered by its title, then by its words', () => {
    const words = ['Hall', 'Kitchen', 'Store', 'D01', 'D02'];
    expect(
      said(
        [sheet(1, 'A-101', 'Ground floor'), sheet(2, 'A-102', 'Roof', words)],
        [sheet(1, 'B-1', 'Ground floor'), sheet(2, 'B-2', 'Roof plan', [...words, 'D03'])],
      ),
    ).toEqual([
      [1, 1],
      [2, 2],
    ]);
  });
  it('says what was added and removed', () => {
    expect(said([sheet(1, 'A-101'), sheet(2, 'A-102')], [sheet(1, 'A-102'), sheet(2, 'A-103')])).toEqual([
      [2, 1],
      [null, 2],
      [1, null],
    ]);
  });
  it('knows that a sheet became two, each with its part of the words', () => {
    const words = Array.from({ length: 20 }, (_, i) => `room-${i}`);
    const others = [sheet(2, 'A-102', '', ['plant']), sheet(3, 'A-103', '', ['roof'])];
    const pairs = matchPages(
      [sheet(1, 'A-101', 'Ground floor', words), ...others],
      [sheet(1, 'A-101a', 'North', words.slice(0, 9)), sheet(2, 'A-101b', 'South', words.slice(9)), ...others],
    );
    expect(pairs.map(({ before, after, split }) => [before?.number, after?.number, split])).toEqual([
      ['A-101', 'A-101a', true],
      ['A-101', 'A-101b', true],
      ['A-102', 'A-102', undefined],
      ['A-103', 'A-103', undefined],
    ]);
  });
  it('compares the only sheets of two files, whatever they say', () => {
    expect(said([sheet(1, 'A-101')], [sheet(1, 'Z-9')])).toEqual([[1, 1]]);
  });
  it('in the same place little in common is enough where a sheet says no number', () => {
    const words = (...some: string[]) => ({ ...sheet(1, ''), words: some });
    const other = { ...sheet(2, ''), words: ['other'] };
    expect(said([words('hall', 'store'), other], [words('hall', 'kit', 'room'), { ...other, words: ['new'] }])).toEqual(
      [
        [1, 1],
        [null, 2],
        [2, null],
      ],
    );
  });
  it('has each sheet once', () => {
    const any = fc.array(
      fc.record({ number: fc.constantFrom('', 'A', 'B', 'C'), title: fc.constantFrom('', 'x', 'y') }),
      {
        maxLength: 8,
      },
    );
    const paged = any.map((all) => all.map((one, i) => sheet(i + 1, one.number, one.title)));
    fc.assert(
      fc.property(paged, paged, (before, after) => {
        const pairs = matchPages(before, after);
        const side = (of: 'before' | 'after') => pairs.flatMap((pair) => pair[of]?.page ?? []).sort((a, b) => a - b);
        expect(side('before')).toEqual(before.map(({ page }) => page));
        expect(side('after')).toEqual(after.map(({ page }) => page));
      }),
    );
  });
});
