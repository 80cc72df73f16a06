/** 500,000 elements in the browser: they open, they turn, and they take little more memory than what was sent. */
import { reportFrames, withLargeScene } from './large-scene.ts';
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
  reportFrames(await turn(), '500,000', 8);
  const held = (await memory()) - before;
  report(
    'memory of the page, bytes, against all that was sent to it',
    { ours: held, baseline: sent, ratio: held / sent },
    { atMost: 1.5 },
  );
});
