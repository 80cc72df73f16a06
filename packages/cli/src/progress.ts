import fs from 'node:fs';
import path from 'node:path';

const WIDTH = 24;

/** A bar on the terminal; nothing where the output goes elsewhere. */
export function progressBar(): { show(file: string, sent: number): void; end(): void } {
  if (!process.stderr.isTTY) return { show: () => undefined, end: () => undefined };
  return {
    show(file, sent) {
      const share = sent / Math.max(1, fs.statSync(file).size);
      const filled = Math.round(share * WIDTH);
      const bar = `${'#'.repeat(filled)}${'.'.repeat(WIDTH - filled)}`;
      process.stderr.write(`\r[${bar}] ${Math.round(share * 100)} % ${path.basename(file)}\u001b[K`);
    },
    end: () => void process.stderr.write('\r\u001b[K'),
  };
}
