/**
 * The thread behind `GrowingHashes`: hashes files as far as they are written, beside whoever writes them.
 * In JavaScript, for a thread of Node 20 starts without the loader that reads TypeScript.
 */
import { createHash } from 'node:crypto';
import fs from 'node:fs';
import { parentPort } from 'node:worker_threads';

const MOST_FILES = 2000;
const block = new Uint8Array(2 ** 21);
/** @type {Map<string, { hash: import('node:crypto').Hash, size: number }>} */
const files = new Map();

function advance(file, upTo) {
  const known = files.get(file) ?? { hash: createHash('sha256'), size: 0 };
  // The oldest were probably left by whoever sent them; should they go on, they are read again from the start.
  if (!files.has(file) && files.size >= MOST_FILES) files.delete(files.keys().next().value);
  files.set(file, known);
  const handle = fs.openSync(file);
  try {
    while (known.size < upTo) {
      const read = fs.readSync(handle, block, 0, Math.min(block.length, upTo - known.size), known.size);
      if (!read) throw new Error(`${file} ends at ${known.size}, before ${upTo}.`);
      known.hash.update(block.subarray(0, read));
      known.size += read;
    }
  } finally {
    fs.closeSync(handle);
  }
  return known.hash;
}

parentPort.on('message', ({ file, upTo, finish }) => {
  try {
    const hash = advance(file, upTo);
    if (finish === undefined) return;
    files.delete(file);
    parentPort.postMessage({ finish, sha256: hash.digest('hex') });
  } catch {
    // Whoever finishes the file hashes it as a whole instead.
    files.delete(file);
    if (finish !== undefined) parentPort.postMessage({ finish });
  }
});
