import {
  degrees,
  PDFDocument,
  PDFName,
  PDFRawStream,
  PDFRef,
  PDFString,
  StandardFonts,
  decodePDFRawStream,
  type PDFPage,
} from '@cantoo/pdf-lib';
import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { CHROMIUM_FLAGS, findChromium } from '../../../../scripts/chromium.mjs';
import { openPdf } from './pdf.ts';
import { sharedCopy } from './shared-copy.ts';

/** Everything that a PDF holds, decoded: what somebody finds who looks for it. */
async function everythingIn(file: Uint8Array): Promise<string> {
  const pdf = await PDFDocument.load(file, { updateMetadata: false });
  const parts = pdf.context.enumerateIndirectObjects().flatMap(([, object]) => {
    const words = object.toString();
    const texts = [...words.matchAll(/<((?:[0-9A-Fa-f]{2})+)>/g)].map(([, hex]) =>
      Buffer.from(hex!, 'hex').toString('latin1'),
    );
    const content =
      object instanceof PDFRawStream && !/DCT|JPX|CCITT|JBIG2/.test(String(object.dict.get(PDFName.of('Filter'))))
        ? [Buffer.from(decodePDFRawStream(object).decode()).toString('latin1')]
        : [];
    return [words, ...texts, ...content];
  });
  // Texts of 16 bits lose every other sign, which is 0.
  return parts.join('\n').replaceAll('\0', '') + Buffer.from(file).toString('latin1');
}
async function drawnOn(file: Uint8Array): Promise<string[]> {
  const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const pdf = await getDocument({ data: new Uint8Array(file), verbosity: 0 }).promise;
  const pages: string[] = [];
  for (let page = 1; page <= pdf.numPages; page++) {
    const { items } = await (await pdf.getPage(page)).getTextContent();
    pages.push(items.map((item) => ('str' in item ? item.str : '')).join(''));
  }
  return pages;
}
const SECRET = /S[Ee][Cc][Rr][Ee][Tt]/;

/** Three sheets that share one dictionary of resources; the second has everything by which it could be reached. */
async function entangled(options: { useObjectStreams: boolean }): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  const { context } = pdf;
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  const form = (words: string, resources = {}): PDFRef => {
    const stream = context.flateStream(`BT /F1 12 Tf 10 10 Td (${words}) Tj ET`, {
      Type: 'XObject',
      Subtype: 'Form',
      BBox: [0, 0, 200, 50],
      ...resources,
    });
    return context.register(stream);
  };
  const layer = (title: string): PDFRef => context.register(context.obj({ Type: 'OCG', Name: PDFString.of(title) }));
  const [shownLayer, hiddenLayer] = [layer('Grid'), layer('Under construction')];
  const nested = form('open inner');
  const resources = context.register(
    context.obj({
      Font: { F1: font.ref },
      XObject: {
        Fm1: form('open form', {
          Resources: { Font: { F1: font.ref }, XObject: { In: nested, Other: form('SECRET within') } },
        }),
        Fm2: form('SECRET form'),
      },
      Properties: { L1: shownLayer, L2: hiddenLayer, L9: layer('SECRET layer') },
    }),
  );
  const pages: PDFPage[] = [];
  for (const words of ['open one', 'SECRET two', 'open three']) {
    const page = pdf.addPage([300, 200]);
    const own = words.startsWith('SECRET') ? '/Fm2 Do' : '/Fm1 Do /OC /L1 BDC EMC /OC /L2 BDC EMC';
    page.node.set(
      PDFName.of('Contents'),
      context.register(context.flateStream(`BT /F1 14 Tf 50 100 Td (${words}) Tj ET ${own}`)),
    );
    page.node.set(PDFName.of('Resources'), resources);
    pages.push(page);
  }
  const secret = pages[1]!;
  pages[2]!.setRotation(degrees(90));
  const first = pages[0]!.node;
  const stamp = form('open stamp');
  first.set(
    PDFName.of('Annots'),
    context.obj([
      { Type: 'Annot', Subtype: 'Link', Rect: [0, 0, 9, 9], Dest: [secret.ref, 'Fit'] },
      { Type: 'Annot', Subtype: 'Link', Rect: [0, 0, 9, 9], A: { S: 'GoTo', D: PDFString.of('SECRET place') } },
      {
        Type: 'Annot',
        Subtype: 'Stamp',
        Rect: [0, 0, 9, 9],
        Contents: PDFString.of('SECRET note'),
        P: secret.ref,
        AP: { N: stamp },
      },
    ]),
  );
  first.set(PDFName.of('AA'), context.obj({ O: { S: 'JavaScript', JS: PDFString.of('SECRET script') } }));
  first.set(PDFName.of('PieceInfo'), context.obj({ Cad: { Private: PDFString.of('SECRET path') } }));
  first.set(PDFName.of('Thumb'), context.register(context.flateStream('SECRET thumbnail')));
  first.set(PDFName.of('Metadata'), context.register(context.flateStream('<x>SECRET metadata</x>')));
  first.set(PDFName.of('B'), context.obj([{ N: { P: secret.ref } }]));
  const tree = context.register(
    context.obj({ Type: 'StructTreeRoot', K: [{ S: 'P', ActualText: PDFString.of('SECRET words'), Pg: secret.ref }] }),
  );
  pdf.catalog.set(PDFName.of('StructTreeRoot'), tree);
  pdf.catalog.set(PDFName.of('Dests'), context.obj({ 'SECRET place': [secret.ref, 'Fit'] }));
  pdf.catalog.set(PDFName.of('PageLabels'), context.obj({ Nums: [0, { P: PDFString.of('SECRET label') }] }));
  pdf.catalog.set(PDFName.of('OpenAction'), context.obj([secret.ref, 'Fit']));
  pdf.catalog.set(
    PDFName.of('OCProperties'),
    context.obj({ OCGs: [shownLayer, hiddenLayer], D: { OFF: [hiddenLayer] } }),
  );
  await pdf.attach(new TextEncoder().encode('SECRET attachment'), 'secret.txt');
  pdf.addJavaScript('main', 'console.log("SECRET")');
  pdf.setTitle('SECRET title');
  pdf.setKeywords(['SECRET']);
  return pdf.save(options);
}

function printed(): Uint8Array {
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-print-'));
  const page = (words: string, id: string) =>
    `<section id="${id}" style="break-after: page"><h1>${words}</h1><a href="#secret">there</a></section>`;
  fs.writeFileSync(
    path.join(folder, 'page.html'),
    `<title>SECRET title</title>${page('open one', 'a')}${page('SECRET two', 'secret')}${page('open three', 'c')}`,
  );
  execFileSync(
    findChromium(),
    [...CHROMIUM_FLAGS, '--no-pdf-header-footer', `--print-to-pdf=${folder}/page.pdf`, `file://${folder}/page.html`],
    { stdio: 'ignore' },
  );
  const file = fs.readFileSync(path.join(folder, 'page.pdf'));
  fs.rmSync(folder, { recursive: true });
  return file;
}

describe.each([
  ['with one dictionary for all pages', () => entangled({ useObjectStreams: false })],
  ['with compressed objects', () => entangled({ useObjectStreams: true })],
  ['printed by a browser', () => Promise.resolve(printed())],
])('the copy of a drawing %s', (_, make) => {
  it('holds nothing of the sheets that are left out, and all of the others', async () => {
    const file = await make();
    expect(await everythingIn(file)).toMatch(SECRET);
    const copy = await sharedCopy(file, [1, 3]);
    expect(await everythingIn(copy)).not.toMatch(SECRET);
    const before = await drawnOn(file);
    const after = await drawnOn(copy);
    expect([after[0], after[2]]).toEqual([before[0], before[2]]);
    expect(after[1]).toBe('');
    const sizes = async (pdf: Uint8Array) =>
      (await (await openPdf(new Uint8Array(pdf))).read()).sheets.map(({ width, height }) => [width, height]);
    expect(await sizes(copy)).toEqual(await sizes(file));
  });
});

it('what was drawn over a sheet stays, layers that are off stay off', async () => {
  const copy = await PDFDocument.load(await sharedCopy(await entangled({ useObjectStreams: false }), [1]));
  const annotations = copy.getPage(0).node.Annots()!;
  expect(annotations.size()).toBe(1);
  const { hidden, all } = await everythingIn(await copy.save()).then((words) => ({
    hidden: words.includes('Under construction'),
    all: words,
  }));
  expect(hidden).toBe(true);
  expect(all).toContain('open stamp');
  const properties = copy.catalog.lookup(PDFName.of('OCProperties'))!.toString();
  expect(properties).toMatch(/\/OFF \[ \d+ 0 R \]/);
});

it('with no sheet at all has as many blank pages', async () => {
  const copy = await sharedCopy(await entangled({ useObjectStreams: true }), []);
  expect(await drawnOn(copy)).toEqual(['', '', '']);
  expect(await everythingIn(copy)).not.toMatch(/open|SECRET/);
});
