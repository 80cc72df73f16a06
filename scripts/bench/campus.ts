/** 500,000 elements in the browser: they open, they turn, and they take little more memory than what was sent. */
import { usual, withLargeScene } from './large-scene.ts';
import { report } from './measure.ts';

await withLargeScene(500_000, async ({ page, open, turn, draws, packageBytes }) => {
  const devtools = await page.context().newCDPSession(page);
  const memory = async (): Promise<number> => {
    await devtools.send('HeapProfiler.collectGarbage');
    const { usedSize, backingStorageSize = 0 } = (await devtools.send('Runtime.getHeapUsage')) as {
      usedSize: number;
      backingStorageSize?: number;
    };
    return usedSize + backingStorageSize;
  };
  const sent = await packageBytes();
  const before = await memory();
  const { first, all } = await open();
  console.log(`       500,000 elements: first picture after ${first.toFixed(0)} ms, all after ${all.toFixed(0)} ms`);
  const calls = await draws();
  report('draw calls for 500,000 elements', { ours: calls, baseline: 1, ratio: calls }, { atMost: 80 });
  const script = await turn();
  const frame = usual(script);
  report(
    `script in a frame while 500,000 elements turn, ms, nine of ten of ${script.length}, against 8 ms`,
    { ours: frame, baseline: 8, ratio: frame / 8 },
    { atMost: 1 },
  );
  const held = (await memory()) - before;
  report(
    'memory of the page, bytes, against all that was sent to it',
    { ours: held, baseline: sent, ratio: held / sent },
    { atMost: 1.5 },
  );
});
