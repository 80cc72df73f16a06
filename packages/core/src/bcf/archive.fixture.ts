import { CodedError } from '../platform/coded-error.ts';
import type { BcfArchive, BcfFile, BcfNote, BcfVersion } from './bcf-file.ts';
import { writeBcf } from './write-bcf.ts';

/** An archive in memory: for tests. */
export function archiveOf(files: Readonly<Record<string, string | Uint8Array>>): BcfArchive {
  return {
    names: Object.keys(files),
    read(name) {
      const content = files[name];
      if (content === undefined) return Promise.reject(new CodedError('zip-damaged', { name }));
      return Promise.resolve(typeof content === 'string' ? new TextEncoder().encode(content) : content);
    },
  };
}

/** What is written, and what is noted meanwhile. */
export async function written(file: BcfFile, version: BcfVersion, from: BcfArchive = archiveOf({})) {
  const notes: BcfNote[] = [];
  const files: Record<string, Uint8Array> = {};
  for await (const { name, bytes } of writeBcf(
    file,
    version,
    (entry) => from.read(entry),
    (note) => notes.push(note),
  ))
    files[name] = bytes;
  return { files, notes, archive: archiveOf(files) };
}
