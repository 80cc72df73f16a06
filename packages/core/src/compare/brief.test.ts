import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { briefOf, type BriefRequest, type BriefSheet, type Judgement } from './brief.ts';
import { Similarity } from './similarity.ts';

const request = (id: string, place: BriefRequest['place'], text = '', page: number | null = 1): BriefRequest => ({
  ...{ id, text, page, place },
});
const sheet = (changes: BriefSheet['changes'], similarity = Similarity.none): BriefSheet => ({
  ...{ position: 1, beforePage: 1, similarity, changes },
});
const change = (number: number, x: number, y: number, words: { before?: string; after?: string } = {}) => ({
  number,
  place: [x, y, 20, 20] as [number, number, number, number],
  ...words,
});

describe('briefOf', () => {
  it('proposes what is near, calls missing what has no change, and not asked for what has no request', () => {
    const { requests, changes, counts } = briefOf(
      [request('door', [100, 100, 30, 30]), request('stair', [500, 500, 0, 0])],
      [sheet([change(1, 105, 105), change(2, 800, 100)])],
      [],
    );
    expect(requests).toEqual([
      { id: 'door', changes: [{ position: 1, number: 1 }], ticked: false },
      { id: 'stair', changes: [], ticked: false },
    ]);
    expect(changes.map(({ asked, requestIds }) => [asked, requestIds])).toEqual([
      [true, ['door']],
      [false, []],
    ]);
    expect(counts).toEqual({ found: 1, missing: 1, notAsked: 1, toTick: 2 });
  });

  it('a person has the last word', () => {
    const judgements: Judgement[] = [
      { position: 1, number: 1, asked: false, requestIds: [] },
      { position: 1, number: 2, asked: true, requestIds: ['stair', 'long gone'] },
    ];
    const { requests, counts } = briefOf(
      [request('door', [100, 100, 30, 30]), request('stair', [500, 500, 0, 0])],
      [sheet([change(1, 105, 105), change(2, 800, 100)])],
      judgements,
    );
    expect(requests.map(({ changes, ticked }) => [changes.length, ticked])).toEqual([
      [0, false],
      [1, true],
    ]);
    expect(counts).toEqual({ found: 1, missing: 1, notAsked: 1, toTick: 0 });
  });

  it('what names the words of a change is answered by it, wherever it stands', () => {
    const { requests } = briefOf(
      [request('name', null, 'Call the  store KIT ROOM please', null), request('other', null, 'Move the stair', null)],
      [sheet([change(1, 0, 0, { before: 'Store', after: 'Kit room' })])],
      [],
    );
    expect(requests.map(({ changes }) => changes.length)).toEqual([1, 0]);
    const note = sheet([change(1, 0, 0, { after: '3 Stair turned round since P01.' })]);
    const quoting = ['Add the note “Stair turned round”', 'Add "stair turned round"', 'Turn the stair'];
    const found = quoting.map((text) => briefOf([request('a', null, text, null)], [note], []).counts.found);
    expect(found).toEqual([1, 1, 0]);
  });

  it('a request lies where its sheet came to lie, and on its own sheet alone', () => {
    const shifted = new Similarity(1, 0, 300, 0);
    const found = (page: number) =>
      briefOf([request('a', [100, 100, 10, 10], '', page)], [sheet([change(1, 400, 100)], shifted)], []).counts.found;
    expect([found(1), found(2)]).toEqual([1, 0]);
  });

  it('property: every request is found or missing, every change is asked for or not, whatever was judged', () => {
    const coordinate = fc.integer({ min: 0, max: 1000 });
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.record({ id: fc.string(), x: coordinate, y: coordinate }), {
          selector: ({ id }) => id,
          maxLength: 12,
        }),
        fc.array(fc.tuple(coordinate, coordinate), { maxLength: 12 }),
        fc.array(
          fc.record({
            number: fc.integer({ min: 1, max: 14 }),
            asked: fc.boolean(),
            requestIds: fc.array(fc.string()),
          }),
        ),
        (asked, places, judged) => {
          const { requests, changes, counts } = briefOf(
            asked.map(({ id, x, y }) => request(id, [x, y, 0, 0])),
            [sheet(places.map(([x, y], i) => change(i + 1, x, y)))],
            judged.map((one) => ({ position: 1, ...one })),
          );
          expect(counts.found + counts.missing).toBe(requests.length);
          expect(changes).toHaveLength(places.length);
          expect(counts.toTick).toBe(changes.filter(({ ticked }) => !ticked).length);
          for (const { id, changes: answers } of requests)
            for (const { number } of answers)
              expect(changes.find((one) => one.number === number)).toMatchObject({
                asked: true,
                requestIds: expect.arrayContaining([id]) as string[],
              });
        },
      ),
    );
  });
});
