import { describe, expect, it } from 'vitest';
import { filesIn } from './dropped-files.ts';

type Entry = { isFile: boolean; isDirectory: boolean };
const file = (name: string): Entry =>
  ({ isFile: true, isDirectory: false, file: (done: (file: File) => void) => done(new File(['x'], name)) }) as Entry;
/** A folder that gives its entries two at a time, as browsers give them by the hundred. */
const folder = (...children: Entry[]): Entry =>
  ({
    isFile: false,
    isDirectory: true,
    createReader: () => {
      let at = 0;
      return { readEntries: (done: (part: Entry[]) => void) => done(children.slice(at, (at += 2))) };
    },
  }) as Entry;
const drop = (...entries: (Entry | null)[]): DataTransfer =>
  ({ items: entries.map((entry) => ({ webkitGetAsEntry: () => entry })), files: [] }) as unknown as DataTransfer;
const names = async (transfer: DataTransfer): Promise<string[]> => (await filesIn(transfer)).map(({ name }) => name);

describe('files of a drop', () => {
  it('are found in folders however deep, in the order in which they lie there', async () => {
    const deep = folder(file('b1'), folder(file('c1'), file('c2'), file('c3')), file('b2'), file('b3'));
    expect(await names(drop(file('a1'), deep, folder(), file('a2')))).toEqual([
      'a1',
      'b1',
      'c1',
      'c2',
      'c3',
      'b2',
      'b3',
      'a2',
    ]);
  });

  it('come from the plain list where a browser has no entries, and text dropped along is passed over', async () => {
    const plain = { items: [], files: [new File(['x'], 'plain')] } as unknown as DataTransfer;
    expect(await names(plain)).toEqual(['plain']);
    expect(await names(drop(null, file('a')))).toEqual(['a']);
  });

  it('that cannot be read are said to the caller', async () => {
    const broken = {
      isFile: true,
      isDirectory: false,
      file: (_done: unknown, fail: (e: Error) => void) => fail(new Error('gone')),
    } as Entry;
    await expect(filesIn(drop(broken))).rejects.toThrow('gone');
  });
});
