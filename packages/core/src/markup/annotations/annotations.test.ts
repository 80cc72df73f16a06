import { PDFArray, PDFDocument, PDFHexString, PDFName, PDFString, degrees, type PDFDict } from '@cantoo/pdf-lib';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hangReplies, type AnnotationKind, type Loose } from './annotation.ts';
import { looseOf, openPdf, readAnnotations } from './read-pdf.ts';
import { annotate } from './write-pdf.ts';
import { readXfdf, writeXfdf } from './xfdf.ts';

async function paper(pages = 2): Promise<PDFDocument> {
  const pdf = await PDFDocument.create();
  for (let i = 0; i < pages; i++) pdf.addPage([600, 400]).drawLine({ start: { x: 10, y: 10 }, end: { x: 90, y: 90 } });
  return pdf;
}
const mark = (over: Partial<Loose> = {}): Loose => {
  const id = over.id ?? 'm1';
  return {
    key: id,
    id,
    page: 1,
    kind: 'rectangle',
    author: 'Ann Author',
    created: '2026-11-24T09:00:00Z',
    modified: '2026-11-25T10:15:00+01:00',
    contents: 'Check “this” – ½ 房\nsecond line',
    colour: '#b4502d',
    fill: null,
    box: [100, 100, 200, 160],
    points: [],
    width: 2,
    opacity: 1,
    answers: '',
    state: '',
    subject: 'act',
    ...over,
  };
};
const GEOMETRY: Record<AnnotationKind, Partial<Loose>> = {
  rectangle: {},
  ellipse: { fill: '#ffee00' },
  line: { points: [[100, 100, 200, 160]] },
  arrow: { points: [[100, 100, 200, 160]] },
  dimension: { points: [[100, 100, 200, 160]], contents: '5.00 m' },
  polyline: { points: [[100, 100, 150, 160, 200, 100]] },
  polygon: { points: [[100, 100, 150, 160, 200, 100]], opacity: 0.5 },
  cloud: { points: [[100, 100, 200, 100, 200, 160, 100, 160]] },
  freehand: {
    points: [
      [100, 100, 110, 120, 130, 110],
      [150, 150, 160, 160],
    ],
  },
  highlighter: { points: [[100, 160, 200, 160, 100, 140, 200, 140]] },
  text: {},
  callout: { points: [[90, 90, 110, 110, 120, 120]], box: [85, 85, 200, 160] },
  stamp: { contents: 'Approved' },
  note: { box: [100, 100, 120, 120] },
};
const everyKind = Object.entries(GEOMETRY).map(([kind, over]) =>
  mark({ id: kind, kind: kind as AnnotationKind, ...over }),
);
const withoutKey = (marks: readonly Loose[]) => marks.map(({ key: _key, ...rest }) => (void _key, rest));
const save = (pdf: PDFDocument) => pdf.save({ useObjectStreams: false });

describe('every kind', () => {
  it('is written as a real annotation with an appearance, and read again as what it was', async () => {
    const { pdf, added, skipped } = await annotate(await save(await paper()), everyKind);
    expect([added, skipped]).toEqual([everyKind.length, []]);
    const opened = await openPdf(pdf);
    expect(withoutKey(looseOf(opened).map(({ loose }) => loose))).toEqual(withoutKey(everyKind));
    for (const { dict } of looseOf(opened)) {
      const form = (dict.lookup(PDFName.of('AP')) as PDFDict).lookup(PDFName.of('N')) as unknown as {
        contents: Uint8Array;
      };
      expect(form.contents.length).toBeGreaterThan(10);
    }
  });

  it('goes through XFDF and back', () => {
    const text = writeXfdf(everyKind);
    expect(text).toContain('xmlns="http://ns.adobe.com/xfdf/"');
    const byId = (marks: readonly Loose[]) => [...withoutKey(marks)].sort((a, b) => a.id.localeCompare(b.id));
    expect(byId(readXfdf(text).marks)).toEqual(byId(everyKind));
  });

  it('that is written twice changes nothing; what differs is changed, never doubled', async () => {
    const once = await annotate(await save(await paper()), everyKind);
    const again = await annotate(once.pdf, everyKind);
    expect(again).toMatchObject({ added: 0, updated: 0, unchanged: everyKind.length });
    const moved = everyKind.map((one) => (one.id === 'line' ? { ...one, contents: 'Other', page: 2 } : one));
    const third = await annotate(again.pdf, moved);
    expect(third).toMatchObject({ added: 0, updated: 1, unchanged: everyKind.length - 1 });
    const pages = await readAnnotations(third.pdf);
    expect(pages.map(({ annotations }) => annotations.length)).toEqual([everyKind.length - 1, 1]);
    expect(pages[1]!.annotations[0]).toMatchObject({ id: 'line', contents: 'Other', status: 'act' });
  });
});

describe('answers', () => {
  const talk = [
    mark({ id: 'root', subject: 'ask' }),
    mark({
      id: 'late',
      kind: 'note',
      answers: 'early',
      contents: 'And this?',
      modified: '2026-11-27T08:00:00Z',
      subject: '',
    }),
    mark({
      id: 'early',
      kind: 'note',
      answers: 'root',
      contents: 'It is right.',
      modified: '2026-11-26T08:00:00Z',
      subject: '',
    }),
    mark({
      id: 'done',
      kind: 'note',
      answers: 'late',
      state: 'Completed',
      contents: '',
      modified: '2026-11-28T08:00:00Z',
      subject: '',
    }),
  ];
  it('hang under what they answer, through answers to answers, in the order of time; a state decides the status', async () => {
    const { pdf, skipped } = await annotate(await save(await paper()), talk);
    expect(skipped).toEqual([]);
    const [page] = await readAnnotations(pdf);
    expect(page!.annotations).toHaveLength(1);
    expect(page!.annotations[0]!.status).toBe('settled');
    expect(page!.annotations[0]!.replies.map(({ id, status }) => [id, status])).toEqual([
      ['early', null],
      ['late', null],
      ['done', 'settled'],
    ]);
  });

  it('to what is nowhere are said, not lost silently', async () => {
    const { skipped, added } = await annotate(await save(await paper(1)), [
      mark({ answers: 'nobody' }),
      mark({ id: 'far', page: 9 }),
    ]);
    expect([added, skipped]).toEqual([
      0,
      [
        { id: 'm1', reason: 'unknown-parent' },
        { id: 'far', reason: 'no-such-page' },
      ],
    ]);
  });

  it('in a ring end nowhere and hang nobody up', () => {
    const ring = [mark({ id: 'a', answers: 'b' }), mark({ id: 'b', answers: 'a' }), mark({ id: 'c' })];
    expect(hangReplies(ring).map(({ id }) => id)).toEqual(['c']);
  });
});

describe('files of others', () => {
  async function foreign(annots: (pdf: PDFDocument) => object[], rotate = 0) {
    const pdf = await paper(1);
    const [page] = pdf.getPages();
    page!.setRotation(degrees(rotate));
    const list = annots(pdf).map((one) => pdf.context.register(pdf.context.obj(one as never)));
    page!.node.set(PDFName.of('Annots'), pdf.context.register(pdf.context.obj(list)));
    const [found] = await readAnnotations(await save(pdf));
    return found!.annotations;
  }

  it('text by its mark, boxes in any order, colours of every kind, dates without a zone', async () => {
    const found = await foreign(() => [
      {
        Subtype: 'Square',
        Rect: [200, 160, 100, 100],
        C: [0.5],
        Contents: PDFString.of('caf\\351 \\204'),
        M: PDFString.of('D:20261125101500'),
      },
      { Subtype: 'Circle', Rect: [0, 0, 5, 5], C: [0, 1, 1, 0], Contents: PDFHexString.of('EFBBBFE688BF') },
      { Subtype: 'Text', Rect: [0, 0, 5, 5], C: [], Contents: PDFHexString.fromText('Ω'), NM: PDFString.of('own') },
    ]);
    expect(found).toMatchObject([
      {
        kind: 'rectangle',
        box: [100, 100, 200, 160],
        colour: '#808080',
        contents: 'café —',
        modified: '2026-11-25T10:15:00',
        status: null,
      },
      { kind: 'ellipse', colour: '#ff0000', contents: '房' },
      { kind: 'note', colour: null, contents: 'Ω', id: 'own' },
    ]);
    expect(new Set(found.map(({ id }) => id)).size).toBe(3);
  });

  it('kinds by what they show, and no links, fields or popups', async () => {
    const found = await foreign(() => [
      { Subtype: 'Square', Rect: [0, 0, 9, 9], BE: { S: 'C', I: 2 } },
      { Subtype: 'Line', Rect: [0, 0, 9, 9], L: [0, 0, 9, 9], LE: ['ClosedArrow', 'None'] },
      { Subtype: 'Line', Rect: [0, 0, 9, 9], L: [0, 0, 9, 9], IT: 'LineDimension' },
      { Subtype: 'FreeText', Rect: [0, 0, 9, 9], CL: [0, 0, 5, 5], DA: PDFString.of('1 0 0 rg /Helv 12 Tf') },
      { Subtype: 'StrikeOut', Rect: [0, 0, 9, 9], QuadPoints: [0, 9, 9, 9, 0, 0, 9, 0] },
      { Subtype: 'Link', Rect: [0, 0, 9, 9] },
      { Subtype: 'Widget', Rect: [0, 0, 9, 9] },
      { Subtype: 'Popup', Rect: [0, 0, 9, 9] },
      { Subtype: 'Polygon', Rect: [0, 0, 9, 9], IT: 'PolygonCloud', Vertices: [0, 0, 9, 0, 9, 9] },
    ]);
    expect(found.map(({ kind, colour }) => [kind, colour])).toEqual([
      ['cloud', null],
      ['arrow', null],
      ['dimension', null],
      ['callout', '#ff0000'],
      ['highlighter', null],
      ['cloud', null],
    ]);
  });

  it('states of another model, groups and marks say nothing', async () => {
    const found = await foreign((pdf) => {
      const root = pdf.context.register(
        pdf.context.obj({ Subtype: 'Square', Rect: [0, 0, 9, 9], NM: PDFString.of('r') }),
      );
      return [
        {
          Subtype: 'Text',
          Rect: [0, 0, 1, 1],
          IRT: root,
          StateModel: PDFString.of('Marked'),
          State: PDFString.of('Marked'),
        },
        { Subtype: 'Circle', Rect: [0, 0, 1, 1], IRT: root, RT: 'Group', NM: PDFString.of('g') },
      ];
    });
    expect(found.map(({ id }) => id)).toEqual(['g']);
  });

  it('damaged ones are said to be so', async () => {
    await expect(readAnnotations(new TextEncoder().encode('no pdf at all'))).rejects.toMatchObject({
      code: 'pdf-damaged',
    });
    const pdf = await paper(1);
    pdf.getPage(0).node.set(PDFName.of('Annots'), PDFString.of('nothing'));
    expect((await readAnnotations(await save(pdf)))[0]!.annotations).toEqual([]);
  });
});

describe('XFDF of others', () => {
  const xfdf = (annots: string): string =>
    `<?xml version="1.0"?><xfdf xmlns="http://ns.adobe.com/xfdf/" xml:space="preserve"><annots>${annots}</annots><f href="a.pdf"/></xfdf>`;

  it('is read with entities, rich text, prefixes and gestures', () => {
    const { marks, skipped } = readXfdf(
      xfdf(`<square page="0" rect="1,2,3,4" name="a" title="A &amp; B" color="#FF0000" subject="Rectangle"><contents>x &lt; y&#10;z</contents><popup rect="0,0,1,1"/></square>
        <ink page="1" rect="0,0,9,9" name="b"><inklist><gesture>1,1;2,2</gesture><gesture>3,3;4,4</gesture></inklist></ink>
        <text page="0" rect="0,0,1,1" name="c" inreplyto="a"><contents-richtext><body><p>one <b>two</b></p><p>three</p></body></contents-richtext></text>
        <text page="0" rect="0,0,1,1" name="d" inreplyto="a" state="Rejected" statemodel="Review"/>
        <link page="0" rect="0,0,1,1"/><movie page="0" rect="0,0,1,1" name="m"/><circle page="0" name="nowhere"/>`),
    );
    expect(skipped).toEqual([
      { id: 'm', reason: 'unknown-kind' },
      { id: 'nowhere', reason: 'no-place' },
    ]);
    expect(marks.map(({ id, page, points, contents }) => [id, page, points, contents])).toEqual([
      ['a', 1, [], 'x < y\nz'],
      [
        'b',
        2,
        [
          [1, 1, 2, 2],
          [3, 3, 4, 4],
        ],
        '',
      ],
      ['c', 1, [], 'one two\nthree'],
      ['d', 1, [], ''],
    ]);
    expect(hangReplies(marks)[0]).toMatchObject({ author: 'A & B', colour: '#ff0000', status: 'declined' });
  });

  it.each([
    ['entities of its own', '<!DOCTYPE x [<!ENTITY a "b">]><xfdf/>', 'xfdf-entities'],
    ['no XML', 'hello', 'xfdf-damaged'],
    ['cut off', '<xfdf><annots><square', 'xfdf-damaged'],
    ['another file', '<html></html>', 'xfdf-damaged'],
  ])('%s is refused', (_, text, code) =>
    expect(() => readXfdf(text)).toThrow(expect.objectContaining({ code }) as Error),
  );

  it('no text makes it fail otherwise', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 60 }), (text) => {
        try {
          readXfdf(`<xfdf><annots>${text}</annots></xfdf>`);
        } catch (error) {
          expect((error as { code?: string }).code).toMatch(/^xfdf-/);
        }
      }),
    );
  });
});

it('flattened, the marks are part of the drawing and no annotations any more; links stay', async () => {
  const pdf = await paper(1);
  const link = pdf.context.register(pdf.context.obj({ Type: 'Annot', Subtype: 'Link', Rect: [0, 0, 9, 9] }));
  pdf.getPage(0).node.set(PDFName.of('Annots'), pdf.context.obj([link]));
  const { pdf: flat } = await annotate(await save(pdf), everyKind, true);
  expect((await readAnnotations(flat))[0]!.annotations).toEqual([]);
  const opened = await openPdf(flat);
  expect((opened.getPage(0).node.lookup(PDFName.of('Annots')) as PDFArray).size()).toBe(1);
  expect(opened.getPage(0).node.normalizedEntries().XObject.keys().length).toBe(everyKind.length);
});
