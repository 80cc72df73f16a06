/** Files that are damaged, or made to harm, each from a number: the same number makes the same file. */
import { PDFDocument, PDFName, PDFString, StandardFonts } from '@cantoo/pdf-lib';
import { deflateSync } from 'node:zlib';
import sharp from 'sharp';
import { structure } from '../../packages/demo/src/building/structure.ts';
import { writeModel } from '../../packages/demo/src/ifc/write-model.ts';

export interface DamagedFile {
  seed: number;
  how: string;
  extension: '.ifc' | '.pdf' | '.png';
  bytes: Uint8Array;
}

/** Numbers from 0 to 1 from a seed (mulberry32). */
function chance(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}
type Chance = () => number;
const below = (random: Chance, most: number): number => Math.floor(random() * most);
const text = (bytes: Uint8Array): string => Buffer.from(bytes).toString('latin1');
const bytesOf = (words: string): Uint8Array => Uint8Array.from(Buffer.from(words, 'latin1'));

export const wholeModel = bytesOf(
  writeModel(structure({ number: 1 }).slice(0, 30), { title: 'Test', organisation: 'Nobody', schema: 'IFC4' }),
);
const wholePdf = async (): Promise<Uint8Array> => {
  const pdf = await PDFDocument.create();
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  for (let i = 1; i <= 3; i++)
    pdf.addPage([842, 595]).drawText(`Sheet no: A-${i} Scale: 1:50`, { x: 600, y: 40, font, size: 8 });
  return pdf.save({ useObjectStreams: false });
};
const wholePicture = (): Promise<Uint8Array> =>
  sharp({ create: { width: 60, height: 40, channels: 3, background: '#345' } })
    .png()
    .toBuffer();

type Damage = (bytes: Uint8Array, random: Chance) => Uint8Array;
const ANY: Record<string, Damage> = {
  'bits turned'(bytes, random) {
    const damaged = bytes.slice();
    for (let i = 0; i < 1 + below(random, 60); i++) damaged[below(random, damaged.length)]! ^= 1 << below(random, 8);
    return damaged;
  },
  'cut off': (bytes, random) => bytes.slice(0, 30 + below(random, bytes.length - 30)),
  'a part twice'(bytes, random) {
    const [from, length] = [below(random, bytes.length), below(random, 3000)];
    return new Uint8Array([...bytes.slice(0, from + length), ...bytes.slice(from)]);
  },
  'a part of nothing'(bytes, random) {
    const damaged = bytes.slice();
    const from = 20 + below(random, damaged.length - 20);
    return damaged.fill(0, from, Math.min(damaged.length, from + below(random, 4000)));
  },
};
const numbers = (bytes: Uint8Array, random: Chance, every: number, value: () => string): Uint8Array => {
  const [head = '', ...rest] = text(bytes).split(/(?=\n)/);
  return bytesOf(head + rest.join('').replace(/\d+(?:\.\d+)?/g, (one) => (random() < every ? value() : one)));
};
const HUGE = ['1e308', '-1e39', '99999999999999999999', '4294967296', '0', '-1', 'NaN', '1E-320', '2147483648'];
const IFC: Record<string, Damage> = {
  'huge numbers': (bytes, random) => numbers(bytes, random, 0.02, () => HUGE[below(random, HUGE.length)]!),
  'references to each other': (bytes, random) =>
    bytesOf(text(bytes).replace(/#(\d+)(?=[,)])/g, (one) => (random() < 0.02 ? `#${1 + below(random, 400)}` : one))),
  'references to itself': (bytes, random) =>
    bytesOf(
      text(bytes)
        .split('\n')
        .map((line) => (random() < 0.05 ? line.replace(/(^#\d+)(=.*?)#\d+/, '$1$2$1') : line))
        .join('\n'),
    ),
  'deep nesting': (bytes, random) => {
    const depth = 1000 * (1 + below(random, 100));
    return bytesOf(text(bytes).replace(/\(\(/, `${'('.repeat(depth)}1.${')'.repeat(depth)},((`));
  },
  'NUL in texts': (bytes) => {
    const [head, ...data] = text(bytes).split('DATA;');
    return bytesOf(
      [head, ...data.map((part) => part.replace(/'([^'\n]{3,})'/g, "'$1\\X2\\0000D800\\X0\\\0'"))].join('DATA;'),
    );
  },
  'a bomb of mapped parts': () => {
    const lines = [
      'ISO-10303-21;',
      'HEADER;',
      "FILE_DESCRIPTION((''),'2;1');",
      "FILE_NAME('','',(''),(''),'','','');",
      "FILE_SCHEMA(('IFC4'));",
      'ENDSEC;',
      'DATA;',
    ];
    for (let i = 1; i <= 30; i++)
      lines.push(
        `#${i}=IFCRELAGGREGATES('${String(i).padStart(22, '0')}',$,$,$,#${(i % 30) + 1},(#${((i + 1) % 30) + 1},#${((i + 2) % 30) + 1}));`,
      );
    return bytesOf([...lines, 'ENDSEC;', 'END-ISO-10303-21;', ''].join('\n'));
  },
};
const PDF: Record<string, Damage> = {
  'huge numbers': (bytes, random) => numbers(bytes, random, 0.03, () => HUGE[below(random, HUGE.length)]!),
  'references to each other': (bytes, random) =>
    bytesOf(text(bytes).replace(/\d+ 0 R/g, (one) => (random() < 0.2 ? `${1 + below(random, 12)} 0 R` : one))),
  'deep nesting': (bytes, random) => {
    const depth = 1000 * (1 + below(random, 60));
    return bytesOf(text(bytes).replace('/Kids [', `/Deep ${'['.repeat(depth)}${']'.repeat(depth)} /Kids [`));
  },
  'a page tree in a circle': (bytes) => bytesOf(text(bytes).replace(/\/Kids \[[^\]]*\]/, '/Kids [2 0 R 2 0 R 1 0 R]')),
  'a bomb of zeros': (bytes, random) => {
    const packed = text(deflateSync(Buffer.alloc(2 ** 20 * (20 + below(random, 60)))));
    return bytesOf(
      text(bytes)
        .replace(/stream\r?\n[^]*?endstream/, `stream\n${packed}\nendstream`)
        .replace(/\/Length \d+/, `/Length ${packed.length}`),
    );
  },
};
const PNG: Record<string, Damage> = {
  'a size that is not there': (bytes, random) => {
    const damaged = bytes.slice();
    new DataView(damaged.buffer, damaged.byteOffset).setUint32(16, 2 ** (14 + below(random, 17)));
    return damaged;
  },
};
const FORMATS = [
  ['.ifc', () => Promise.resolve(wholeModel), { ...ANY, ...IFC }],
  ['.pdf', wholePdf, { ...ANY, ...PDF }],
  ['.ifc', () => Promise.resolve(wholeModel), { ...ANY, ...IFC }],
  ['.png', wholePicture, { ...ANY, ...PNG }],
  ['.pdf', wholePdf, { ...ANY, ...PDF }],
] as const;

export async function damagedFile(seed: number): Promise<DamagedFile> {
  const random = chance(seed * 7919 + 1);
  const [extension, whole, kinds] = FORMATS[seed % FORMATS.length]!;
  const ways = Object.entries<Damage>(kinds);
  const [how, damage] = ways[Math.floor(seed / FORMATS.length) % ways.length]!;
  return { seed, how, extension, bytes: damage(new Uint8Array(await whole()), random) };
}

/** A PDF whose page label, title block and outline hold what no database takes, and more pages than a statement has room for. */
export async function awkwardPdf(pages: number): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  for (let i = 0; i < pages; i++) pdf.addPage([100, 100]);
  const labels = pdf.context.obj({ Nums: [0, { P: PDFString.of('A\\000B') }] });
  pdf.catalog.set(PDFName.of('PageLabels'), labels);
  return pdf.save();
}
