/** Files with an index and checksums, as a zip that is made while it is sent. */
import { splitFileName } from '@kindred/core/naming/file-name';
import { csvLine } from '@kindred/core/platform/csv';
import type { Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import type { BlobStore } from './storage/store.ts';

export interface ZippedFile {
  code: string;
  title: string;
  revision: string;
  status: string;
  versionNumber: number;
  fileName: string;
  size: number;
  sha256: string;
}

/** `heading`: the first line of the index, which says what the files are. */
export function zipFiles(
  store: BlobStore,
  files: readonly ZippedFile[],
  heading: string[],
  onError: (error: Error) => void,
): Readable {
  const zip = new ZipFile();
  zip.on('error', onError);
  const free = namesIn(['index.csv', 'SHA256SUMS']);
  const names = files.map(({ code, fileName }) => free(code + splitFileName(fileName).extension));
  const rows = files.map((file, i) => [
    file.code,
    file.title,
    file.revision,
    file.status,
    String(file.versionNumber),
    names[i]!,
    String(file.size),
    file.sha256,
  ]);
  const head = ['Code', 'Title', 'Revision', 'Status', 'Version', 'File', 'Bytes', 'SHA-256'];
  const index = [heading, head, ...rows].map(csvLine).join('');
  zip.addBuffer(Buffer.from(`\ufeff${index}`), 'index.csv');
  zip.addBuffer(Buffer.from(files.map(({ sha256 }, i) => `${sha256}  ${names[i]}\n`).join('')), 'SHA256SUMS');
  files.forEach(({ sha256 }, i) =>
    zip.addReadStreamLazy(
      names[i]!,
      (give) =>
        void store.read(sha256).then(
          (content) => give(null, content),
          (error: Error) => give(error, null as never),
        ),
    ),
  );
  zip.end();
  return zip.outputStream as Readable;
}

/** Names for files beside each other, on every system: what is there already, whatever its case, gets a number. */
export function namesIn(taken: readonly string[]): (name: string) => string {
  const seen = new Map(taken.map((name) => [name.toLowerCase(), 1]));
  return (name) => {
    const safe = name.replace(/[/\\:*?"<>|]/g, '_');
    const count = (seen.get(safe.toLowerCase()) ?? 0) + 1;
    seen.set(safe.toLowerCase(), count);
    const { stem, extension } = splitFileName(safe);
    return count === 1 ? safe : `${stem} (${count})${extension}`;
  };
}
