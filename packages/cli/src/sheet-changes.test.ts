/** Two files compared: answers in the points of the pages' own spaces, whatever their rotation and scale. */
import { degrees, PDFDocument, rgb, StandardFonts } from '@cantoo/pdf-lib';
import { createCanvas } from '@napi-rs/canvas';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { listSheetChanges } from './sheet-changes.ts';

let folder: string;
beforeAll(() => void (folder = fs.mkdtempSync(path.join(os.tmpdir(), 'sheet-changes-'))));
afterAll(() => fs.rmSync(folder, { recursive: true, force: true }));

interface Plan {
  scale?: number;
  rotation?: number;
  /** Of the eighth box, points to the right. */
  moved?: number;
  room?: string;
  number?: string;
}
async function file(name: string, ...plans: Plan[]): Promise<string> {
  const pdf = await PDFDocument.create();
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  for (const { scale = 1, rotation = 0, moved = 0, room = 'Store', number = 'A-101' } of plans) {
    const page = pdf.addPage([842 * scale, 595 * scale]);
    page.setRotation(degrees(rotation));
    for (let i = 0; i < 30; i++)
      page.drawRectangle({
        x: scale * (50 + 20 * i + (i === 7 ? moved : 0)),
        y: scale * (100 + 7 * i),
        width: 15 * scale,
        height: 11 * scale,
        borderWidth: 0.5,
        borderColor: rgb(0, 0, 0),
      });
    const write = (text: string, x: number, y: number, size: number) =>
      page.drawText(text, { x: x * scale, y: y * scale, size: size * scale, font });
    write(room, 300, 500, 9);
    write('Drawing no', 600, 40, 6);
    write(number, 600, 26, 10);
  }
  const target = path.join(folder, name);
  fs.writeFileSync(target, await pdf.save());
  return target;
}

describe('sheet-changes', () => {
  it('finds a box that moved by a millimetre, and what is called otherwise', async () => {
    const { data, findings } = await listSheetChanges(
      await file('a.pdf', {}),
      await file('b.pdf', { moved: 3, room: 'Kit room' }),
      undefined,
    );
    expect(data.summary).toEqual({ added: 0, removed: 0, moved: 1, text: 1 });
    expect(findings).toBe(2);
    const [page] = data.pages;
    expect(page).toMatchObject({ before: { page: 1, number: 'A-101' }, after: { page: 1, number: 'A-101' } });
    expect(page!.changes).toContainEqual({ kind: 'moved', box: [193, 149, 208, 160], shift: [3, 0] });
    expect(page!.changes).toContainEqual(expect.objectContaining({ kind: 'text', before: 'Store', after: 'Kit room' }));
  });

  it('plotted at another scale, on a page that is rotated, it is the same', async () => {
    const { data } = await listSheetChanges(
      await file('c.pdf', { rotation: 90 }),
      await file('d.pdf', { scale: 0.5, moved: 3 }),
      undefined,
    );
    const [page] = data.pages;
    expect(page!.transform).toEqual([0.5, 0, 0, 0.5, 0, 0].map((value) => expect.closeTo(value, 4)));
    expect(page!.changes).toEqual([
      {
        kind: 'moved',
        box: [96.5, 74.5, 104, 80].map((value) => expect.closeTo(value, 1)),
        shift: [expect.closeTo(1.5, 2), expect.closeTo(0, 2)],
      },
    ]);
  });

  it('pairs the sheets of two sets by number, and says which are new and which are gone', async () => {
    const { data, text } = await listSheetChanges(
      await file('e.pdf', { number: 'A-101' }, { number: 'A-102' }),
      await file('f.pdf', { number: 'A-102' }, { number: 'A-103', room: 'Plant' }),
      undefined,
    );
    expect(data.pages.map(({ before, after }) => [before?.number, after?.number])).toEqual([
      ['A-102', 'A-102'],
      [undefined, 'A-103'],
      ['A-101', undefined],
    ]);
    expect(text).toContain('A-102: nothing changed');
    expect(text).toContain('A-103: a new sheet');
    expect(text).toContain('A-101: not there any more');
  });

  it('compares scans by their ink, and tells where something was on the page before', async () => {
    const scan = async (name: string, boxes: [number, number][], shift: number): Promise<string> => {
      const canvas = createCanvas(1684, 1190);
      const context = canvas.getContext('2d');
      context.fillStyle = '#eee9dd';
      context.fillRect(0, 0, canvas.width, canvas.height);
      context.translate(shift, 0);
      context.lineWidth = 4;
      context.strokeRect(60, 60, 1500, 1000);
      for (const [x, y] of boxes) context.strokeRect(x, y, 120, 80);
      const pdf = await PDFDocument.create();
      const page = pdf.addPage([842, 595]);
      page.drawImage(await pdf.embedPng(canvas.toBuffer('image/png')), { x: 0, y: 0, width: 842, height: 595 });
      fs.writeFileSync(path.join(folder, name), await pdf.save());
      return path.join(folder, name);
    };
    const both: [number, number][] = Array.from({ length: 12 }, (_, i) => [100 + 210 * (i % 6), 200 + 30 * i]);
    const { data } = await listSheetChanges(
      await scan('i.pdf', [...both, [1200, 900]], 0),
      await scan('j.pdf', [...both, [300, 900]], 20),
      undefined,
    );
    const [page] = data.pages;
    expect(data.summary).toEqual({ added: 1, removed: 1, moved: 0, text: 0 });
    const removed = page!.changes.find(({ kind }) => kind === 'removed')!;
    [599, 104, 661, 146].forEach((value, i) => expect(Math.abs(removed.box[i]! - value)).toBeLessThan(4));
  });

  it('draws both on each other', async () => {
    const picture = path.join(folder, 'overlay.png');
    await listSheetChanges(await file('g.pdf', {}), await file('h.pdf', { moved: 9 }), picture);
    expect(fs.readFileSync(picture).subarray(1, 4).toString()).toBe('PNG');
  });
});
