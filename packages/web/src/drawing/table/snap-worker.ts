/** Unpacks what a sheet draws and makes it ready to be looked up, beside the page. */
import { snapParts } from '@kindred/core/drawing/vectors/snap';
import { decodePage } from '@kindred/core/drawing/vectors/vectors-file';
import { expose, transfer } from 'comlink';

const snapping = {
  async open(packed: Uint8Array) {
    const vectors = await decodePage(packed);
    const parts = snapParts(vectors);
    const buffers = [parts.segments.buffer, parts.circles.buffer, parts.lines, parts.round];
    return transfer(
      { parts, texts: vectors.texts },
      buffers.filter((buffer) => buffer !== undefined),
    );
  },
};
export type SnapWorker = typeof snapping;
expose(snapping);
