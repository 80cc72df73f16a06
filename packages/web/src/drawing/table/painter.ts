/** Decides what is drawn of a sheet: the window with a margin, sharp, the newest wish alone; the rest of the page once, small. */
import type { SheetSource } from './sources.ts';
import { shownBox, type SheetView, type Size } from './view.ts';

/** Around the window so much more of it is drawn, so that a little panning shows nothing blurred. */
const MARGIN = 0.25;
const OVERVIEW_PIXELS = 2200;
/** A picture of more pixels than that takes more memory than a sheet is worth. */
const MOST_PIXELS = 16_000_000;

export interface Patch {
  picture: ImageBitmap;
  /** The view that the picture shows: its corner is the corner of the page in the picture. */
  view: SheetView;
  size: Size;
}

export class Painter {
  private running: AbortController | undefined;
  private shown: Patch | undefined;

  constructor(
    private readonly source: SheetSource,
    private readonly page: number,
    private readonly onPatch: (patch: Patch) => void,
  ) {}

  /** Draws what the window shows, unless what was drawn last shows it as sharp. */
  async want(view: SheetView, window: Size, ratio: number): Promise<void> {
    if (this.shows(view, window)) return;
    this.running?.abort();
    const mine = (this.running = new AbortController());
    const [marginX, marginY] = [window[0] * MARGIN, window[1] * MARGIN];
    const size: Size = [window[0] + 2 * marginX, window[1] + 2 * marginY];
    const moved = { ...view, x: view.x + marginX, y: view.y + marginY };
    const bearable = Math.min(ratio, Math.sqrt(MOST_PIXELS / (size[0] * size[1])));
    const picture = await this.source.draw(this.page, moved, size, bearable, mine.signal);
    if (!picture) return;
    if (mine.signal.aborted) return picture.close();
    this.shown?.picture.close();
    this.shown = { picture, view: moved, size };
    this.onPatch(this.shown);
  }

  /** The whole page, small: what is seen while something moves into the window. */
  async overview(page: Size): Promise<ImageBitmap | undefined> {
    const scale = OVERVIEW_PIXELS / Math.max(...page);
    const size: Size = [page[0] * scale, page[1] * scale];
    return this.source.draw(this.page, { x: 0, y: 0, zoom: scale, turn: 0 }, size, 1, new AbortController().signal);
  }

  /** What was drawn last is not what there is any more. */
  forget(): void {
    this.shown?.picture.close();
    this.shown = undefined;
  }

  stop(): void {
    this.running?.abort();
    this.forget();
  }

  private shows(view: SheetView, window: Size): boolean {
    if (!this.shown || this.shown.view.zoom !== view.zoom || this.shown.view.turn !== view.turn) return false;
    const [x, y, w, h] = shownBox(this.shown.view, this.shown.size);
    const [wx, wy, ww, wh] = shownBox(view, window);
    const edge = 1e-6 * (w + h);
    return wx >= x - edge && wy >= y - edge && wx + ww <= x + w + edge && wy + wh <= y + h + edge;
  }
}
