/** One preparation, or the baseline, in a process of its own: prints milliseconds and the peak of its memory in MB. */
import { encodePrepared, prepareModel } from '@kindred/core/scene/prepare-model';
import fs from 'node:fs';
import { webIfc } from '../../packages/server/src/preparation/web-ifc.ts';

const [mode, file] = process.argv.slice(2);
const api = await webIfc();
// The peak counts from here, without what starting and loading took for a moment.
fs.writeFileSync('/proc/self/clear_refs', '5');
const idle = peakMegabytes();
const bytes = fs.readFileSync(file!);
const work = (): void => void (mode === 'ours' ? encodePrepared(prepareModel(bytes, api)) : meshesAlone());
const beginning = performance.now();
work();
const cold = performance.now() - beginning;
const megabytes = peakMegabytes();
// The server keeps its preparation processes, so a file that is not the first is timed too.
const start = performance.now();
work();
console.log(JSON.stringify({ cold, warm: performance.now() - start, megabytes, idle }));

/** What web-ifc needs by itself to open the file and hand out every mesh. */
function meshesAlone(): void {
  const model = api.OpenModel(bytes);
  api.StreamAllMeshes(model, (mesh) => {
    for (let i = 0; i < mesh.geometries.size(); i++) {
      const geometry = api.GetGeometry(model, mesh.geometries.get(i).geometryExpressID);
      api.GetVertexArray(geometry.GetVertexData(), geometry.GetVertexDataSize());
      api.GetIndexArray(geometry.GetIndexData(), geometry.GetIndexDataSize());
      geometry.delete();
    }
  });
  api.CloseModel(model);
}

function peakMegabytes(): number {
  return Number(/VmHWM:\s+(\d+)/.exec(fs.readFileSync('/proc/self/status', 'utf8'))?.[1] ?? 0) / 1024;
}
