/** Preparing an IFC of 50,000 elements against web-ifc alone. */
import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { SMALL_NURSERY } from '../../packages/server/src/preparation/runner.ts';
import { largeModel } from './large-model.ts';
import { ratio, report } from './measure.ts';

const file = path.join(os.tmpdir(), `kindred-bench-${process.pid}.ifc`);
const bytes = largeModel(50_000);
fs.writeFileSync(file, bytes);
const entry = fileURLToPath(new URL('./prepare-once.ts', import.meta.url));
const once = (mode: string) =>
  JSON.parse(
    execFileSync(process.execPath, [SMALL_NURSERY, '--import', 'tsx', entry, mode, file], { encoding: 'utf8' }),
  ) as {
    cold: number;
    warm: number;
    megabytes: number;
    idle: number;
  };

/** Of each preparation, beyond what its process had before. */
const grown: number[] = [];
const measure = (kind: 'cold' | 'warm') =>
  ratio(
    async () => {
      const run = once('ours');
      grown.push(run.megabytes - run.idle);
      return run[kind];
    },
    async () => once('baseline')[kind],
    3,
  );
const cold = await measure('cold');
const warm = await measure('warm');
fs.rmSync(file);
report('preparing 50,000 elements as the first file of a process, ms, against web-ifc alone', cold, { atMost: 1.5 });
report('preparing 50,000 elements as a later file, ms, against web-ifc alone', warm, { atMost: 1.5 });
const median = grown.sort((a, b) => a - b)[grown.length >> 1]!;
const megabytes = bytes.length / 2 ** 20;
report(
  'memory of the preparation process beyond its start (median), MB, against the file',
  { ours: median, baseline: megabytes, ratio: median / megabytes },
  { atMost: 8 },
);
