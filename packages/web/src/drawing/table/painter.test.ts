import { expect, it } from 'vitest';
import { Painter, type Patch } from './painter.ts';
import type { SheetSource } from './sources.ts';
import type { SheetView, Size } from './view.ts';

const WINDOW: Size = [800, 600];
const at = (over: Partial<SheetView> = {}): SheetView => ({ x: 0, y: 0, zoom: 1, turn: 0, ...over });

function table() {
  const asked: { view: SheetView; size: Size; ratio: number; signal: AbortSignal; finish(): void }[] = [];
  const closed: string[] = [];
  const source: SheetSource = {
    size: () => Promise.resolve([1000, 800]),
    draw: (_page, view, size, ratio, signal) =>
      new Promise((resolve) => {
        const picture = { close: () => void closed.push(String(asked.length)) } as ImageBitmap;
        asked.push({ view, size, ratio, signal, finish: () => resolve(picture) });
      }),
    layers: () => Promise.resolve([]),
    showLayer: () => Promise.resolve(),
    close: () => undefined,
  };
  const shown: Patch[] = [];
  return { painter: new Painter(source, 1, (patch) => shown.push(patch)), asked, shown, closed };
}
const settled = () => new Promise((resolve) => setTimeout(resolve));

it('draws the window with a margin, and no more until something else would be seen', async () => {
  const { painter, asked, shown } = table();
  void painter.want(at(), WINDOW, 2);
  expect(asked[0]).toMatchObject({ view: { x: 200, y: 150, zoom: 1 }, size: [1200, 900], ratio: 2 });
  asked[0]!.finish();
  await settled();
  expect(shown).toHaveLength(1);
  for (const seen of [at(), at({ x: 190, y: -140 })]) await painter.want(seen, WINDOW, 2);
  expect(asked).toHaveLength(1);
  for (const fresh of [at({ x: 210 }), at({ zoom: 1.1 }), at({ turn: 1 })]) void painter.want(fresh, WINDOW, 2);
  expect(asked).toHaveLength(4);
});

it('ends what is not wanted any more, and shows the newest alone', async () => {
  const { painter, asked, shown } = table();
  void painter.want(at(), WINDOW, 1);
  void painter.want(at({ zoom: 2 }), WINDOW, 1);
  expect(asked.map(({ signal }) => signal.aborted)).toEqual([true, false]);
  asked.forEach(({ finish }) => finish());
  await settled();
  expect(shown.map(({ view }) => view.zoom)).toEqual([2]);
});

it('keeps one picture, of bearable size', async () => {
  const { painter, asked, closed } = table();
  void painter.want(at(), [4000, 3000], 2);
  const { size, ratio } = asked[0]!;
  expect(size[0] * size[1] * ratio * ratio).toBeLessThanOrEqual(16_000_001);
  asked[0]!.finish();
  await settled();
  void painter.want(at({ zoom: 3 }), WINDOW, 1);
  asked[1]!.finish();
  await settled();
  expect(closed).toHaveLength(1);
  painter.stop();
  expect(closed).toHaveLength(2);
});
