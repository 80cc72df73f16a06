/** A BCF file is read, and the files in it are laid down one by one: pictures without anything but what draws them. */
import { openZip } from '@kindred/archive/read-zip';
import type { BcfFile, BcfNote, BcfTopic } from '@kindred/core/bcf/bcf-file';
import { readBcf } from '@kindred/core/bcf/read-bcf';
import { CodedError } from '@kindred/core/platform/coded-error';
import { cleanPng } from '@kindred/core/platform/png';
import fs from 'node:fs/promises';
import path from 'node:path';

/** Entries of the archive by the name of the file that each became. */
export interface UnpackedBcf extends BcfFile {
  files: Record<string, string>;
}

const MOST_PIXELS = 4096 * 4096;
const LARGEST_FILE = 30e6;

/** Lays `topics.json` into the folder, and the files beside it; answers their names, that one first. */
export async function unpackBcf(file: string, folder: string): Promise<string[]> {
  const zip = await openZip(file);
  try {
    const read = await readBcf(zip);
    const unsafe = zip.unsafe.map((name): BcfNote => ({ code: 'unsafe-name', topic: null, values: { name } }));
    const notes = [...unsafe, ...read.notes];
    const files: Record<string, string> = {};
    let count = 0;
    for (const topic of read.topics)
      for (const [entry, kind] of filesOf(topic)) {
        if (files[entry]) continue;
        try {
          const bytes = await zip.read(entry);
          if (bytes.length > LARGEST_FILE) throw new CodedError('zip-too-large', { name: entry });
          const name = `file-${count++}`;
          await fs.writeFile(path.join(folder, name), kind === 'picture' ? await cleaned(bytes) : bytes);
          files[entry] = name;
        } catch (error) {
          if (!(error instanceof CodedError)) throw error;
          notes.push({
            code: kind === 'picture' ? 'no-snapshot' : 'no-document',
            topic: topic.guid,
            values: { name: entry },
          });
        }
      }
    const unpacked: UnpackedBcf = { ...read, notes, files };
    await fs.writeFile(path.join(folder, 'topics.json'), JSON.stringify(unpacked));
    return ['topics.json', ...Object.values(files)];
  } finally {
    zip.close();
  }
}

function* filesOf({ viewpoints, documents, snippet }: BcfTopic): Generator<[entry: string, kind: 'picture' | 'other']> {
  for (const { snapshot, bitmaps } of viewpoints) {
    if (snapshot) yield [snapshot, 'picture'];
    for (const { entry } of bitmaps) if (entry) yield [entry, 'picture'];
  }
  for (const { entry } of documents) if (entry) yield [entry, 'other'];
  if (snippet?.entry) yield [snippet.entry, 'other'];
}

/** PNG is cleaned without decoding it; what else is a picture is drawn anew. */
async function cleaned(bytes: Uint8Array): Promise<Uint8Array> {
  try {
    return cleanPng(bytes, MOST_PIXELS);
  } catch (error) {
    if (!(error instanceof CodedError) || error.code !== 'no-picture') throw error;
  }
  const { default: sharp } = await import('sharp');
  const picture = sharp(bytes, { limitInputPixels: MOST_PIXELS });
  const { format } = await picture.metadata().catch(() => ({ format: undefined }));
  if (format !== 'jpeg') throw new CodedError('no-picture');
  return picture.rotate().png().toBuffer();
}
