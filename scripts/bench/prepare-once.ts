/** One preparation, or the baseline, in a process of its own: prints milliseconds and the peak of its memory in MB. */
import { encodePrepared, prepareModel } from '@kindred/core/scene/prepare-model';
import fs from 'node:fs';
import { openAlone } from './open-alone.ts';
import { webIfc } from '../../packages/server/src/preparation/web-ifc.ts';

const [mode, file] = process.argv.slice(2);
const api = await webIfc();
// The peak counts from here, without what starting and loading took for a moment.
fs.writeFileSync('/proc/self/clear_refs', '5');
const idle = peakMegabytes();
const bytes = fs.readFileSync(file!);
const work = (): void => void (mode === 'ours' ? encodePrepared(prepareModel(bytes, api)) : openAlone(api, bytes));
const beginning = performance.now();
work();
const cold = performance.now() - beginning;
const megabytes = peakMegabytes();
// The server keeps its preparation processes, so a file that is not the first is timed too.
const start = performance.now();
work();
console.log(JSON.stringify({ cold, warm: performance.now() - start, megabytes, idle }));

function peakMegabytes(): number {
  return Number(/VmHWM:\s+(\d+)/.exec(fs.readFileSync('/proc/self/status', 'utf8'))?.[1] ?? 0) / 1024;
}
