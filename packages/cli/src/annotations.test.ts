import { PDFDocument } from '@cantoo/pdf-lib';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { commands } from './commands.ts';

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-annotations-'));
const at = (name: string): string => path.join(folder, name);
const run = (name: string, ...args: string[]) => commands[name]!.run(args);
beforeAll(async () => {
  const pdf = await PDFDocument.create();
  pdf.addPage([600, 400]);
  fs.writeFileSync(at('a.pdf'), await pdf.save());
  fs.writeFileSync(
    at('marks.xfdf'),
    `<xfdf xmlns="http://ns.adobe.com/xfdf/"><annots>
      <square page="0" rect="10,10,60,40" name="a" title="Ann" subject="act"><contents>Widen the door</contents></square>
      <text page="0" rect="0,0,1,1" name="b" inreplyto="a" state="Completed" statemodel="Review" title="Bo"/>
      <circle page="7" rect="10,10,60,40" name="c"/>
    </annots></xfdf>`,
  );
});
afterAll(() => fs.rmSync(folder, { recursive: true }));

it('marks are written, listed with their answers, and written as XFDF again', async () => {
  const written = await run('annotate', at('a.pdf'), at('marks.xfdf'), '--out', at('b.pdf'));
  expect(written.data).toEqual({
    added: 2,
    updated: 0,
    unchanged: 0,
    skipped: [{ id: 'c', reason: 'The PDF has no such page.' }],
  });
  expect(written.findings).toBe(1);
  const listed = await run('annotations', at('b.pdf'), '--xfdf', at('again.xfdf'));
  expect(listed.text).toBe('1: rectangle (settled) by Ann: Widen the door, 1 answer');
  expect(listed.data).toMatchObject({ pages: [{ page: 1, annotations: [{ id: 'a', box: [10, 10, 60, 40] }] }] });
  const again = await run('annotate', at('b.pdf'), at('again.xfdf'), '--out', at('c.pdf'));
  expect(again.data).toMatchObject({ added: 0, updated: 0, unchanged: 2 });
});

it('flattened, nothing is listed any more', async () => {
  await run('annotate', at('a.pdf'), at('marks.xfdf'), '--out', at('flat.pdf'), '--flatten');
  expect((await run('annotations', at('flat.pdf'))).text).toBe('No markups.');
});

it('wrong files and missing options are said, and leave nothing behind', async () => {
  fs.writeFileSync(at('wrong.pdf'), 'no pdf');
  await expect(run('annotations', at('wrong.pdf'))).rejects.toMatchObject({ code: 'pdf-damaged' });
  await expect(run('annotate', at('a.pdf'), at('a.pdf'), '--out', at('d.pdf'))).rejects.toMatchObject({
    code: expect.stringMatching(/^xfdf|^not-text/) as string,
  });
  await expect(run('annotate', at('a.pdf'), at('marks.xfdf'))).rejects.toThrow('--out is missing');
  await expect(run('annotate', at('a.pdf'), at('marks.xfdf'), '--out', at('no/such/folder.pdf'))).rejects.toThrow();
  expect(fs.readdirSync(folder).filter((name) => name.includes('.tmp') || name === 'd.pdf')).toEqual([]);
});
