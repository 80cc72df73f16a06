/** Clashes of 50,000 elements against 50,000, against a sorted sweep with a tree of triangles for each pair. */
import { areNear, boxesOf, eachCandidate, type Boxes } from '@kindred/core/clash/candidates';
import { findClashes, type ClashSide } from '@kindred/core/clash/find-clashes';
import type { ClashRule, RuledModel } from '@kindred/core/clash/rule';
import { runRule } from '@kindred/core/clash/run-rule';
import { bodyOf } from '@kindred/core/scene/element-body';
import { encodeScene, type ScenePackage } from '@kindred/core/scene/package';
import { prepareModel } from '@kindred/core/scene/prepare-model';
import { decodeProperties } from '@kindred/core/scene/property-file';
import { webIfc } from '../../packages/server/src/preparation/web-ifc.ts';
import { largeModel } from './large-model.ts';
import { alternating, ratio, report, timed } from './measure.ts';

const ELEMENTS = 50_000;
const api = await webIfc();
type Disciplines = NonNullable<Parameters<typeof largeModel>[2]>;
function side(elements: number, of: Disciplines): ClashSide {
  const { scene, table } = prepareModel(largeModel(elements, undefined, of), api);
  return { scene, rows: table.globalId.length };
}
const [building, services] = [side(ELEMENTS, ['architecture', 'structure']), side(ELEMENTS, ['services'])];
const settings = { tolerance: 0.001, clearance: 0 };

// What is looked at is what brute force finds, for a sample.
const [a, b] = [boxesOf(building.scene, building.rows), boxesOf(services.scene, services.rows)];
const sampled = Array.from({ length: Math.floor(building.rows / 97) }, (_, i) => i * 97);
const sample = Float64Array.from(sampled.flatMap((row) => [...a.subarray(row * 6, row * 6 + 6)]));
let found = 0;
eachCandidate(sample, b, 0, () => found++);
let brute = 0;
for (const row of sampled)
  for (let other = 0; other < services.rows; other++) if (areNear(a, row, b, other, 0)) brute++;
if (found !== brute || !brute) throw new Error(`${found} pairs, brute force finds ${brute}`);

/** Elements in the order of their lower x, those that reach there still held; each element's tree is made once. */
function sweep(): number {
  const bodies = ({ scene, rows }: ClashSide) => {
    const starts = startsOf(scene, rows);
    const known = new Map<number, ReturnType<typeof bodyOf>>();
    return (row: number) => {
      let body = known.get(row);
      if (!body) known.set(row, (body = bodyOf(scene, starts[row]!, starts[row + 1]!)));
      return body;
    };
  };
  const [left, right] = [bodies(building), bodies(services)];
  const [boxesA, boxesB] = [boxesOf(building.scene, building.rows), boxesOf(services.scene, services.rows)];
  const entries = (boxes: Boxes, isA: boolean) =>
    Array.from({ length: boxes.length / 6 }, (_, row) => ({
      from: boxes[row * 6]!,
      to: boxes[row * 6 + 3]!,
      row,
      isA,
    }));
  const order = [...entries(boxesA, true), ...entries(boxesB, false)].sort((p, q) => p.from - q.from);
  let active: typeof order = [];
  let meeting = 0;
  for (const one of order) {
    active = active.filter(({ to }) => to >= one.from);
    for (const other of active) {
      if (other.isA === one.isA) continue;
      const [i, j] = one.isA ? [one.row, other.row] : [other.row, one.row];
      if (areNear(boxesA, i, boxesB, j, 0) && left(i).meets(right(j))) meeting++;
    }
    active.push(one);
  }
  return meeting;
}
function startsOf({ instances }: ScenePackage, rows: number): Uint32Array {
  const starts = new Uint32Array(rows + 1);
  for (const row of instances.element) starts[row + 1]!++;
  for (let row = 0; row < rows; row++) starts[row + 1]! += starts[row]!;
  return starts;
}

let result = findClashes(building, services, settings);
console.log(`       ${result.clashes.length} clashes of ${result.candidatePairs} pairs; the sweep meets ${sweep()}`);
const times = await ratio(
  () => timed(sweep),
  () => timed(() => (result = findClashes(building, services, settings))),
  3,
);
report('a sorted sweep of 50,000 × 50,000 elements, ms, against ours', times, { atLeast: 3 });

const half = [side(ELEMENTS / 2, ['architecture', 'structure']), side(ELEMENTS / 2, ['services'])] as const;
const growth = await ratio(
  () => timed(() => findClashes(building, services, settings)),
  () => timed(() => findClashes(...half, settings)),
  5,
);
report('twice as many elements on both sides, against half of them', growth, { atMost: 2 ** 1.15 });

const packages = encodeScene(building.scene).length + encodeScene(services.scene).length;
globalThis.gc!();
globalThis.gc!();
const before = process.memoryUsage();
let most = 0;
findClashes(building, services, settings, (looked) => {
  if (looked % 2000) return;
  globalThis.gc!();
  const { heapUsed, arrayBuffers } = process.memoryUsage();
  most = Math.max(most, heapUsed + arrayBuffers - before.heapUsed - before.arrayBuffers);
});
report(
  'memory that it takes beyond the packages, bytes, against them',
  { ours: most, baseline: packages, ratio: most / packages },
  { atMost: 2 },
);

// A rule again, after one part of the services has changed: a hundredth of its elements.
const everything = { match: 'all' as const, conditions: [] };
const rule: ClashRule = {
  ...{ a: everything, b: everything, kinds: ['hard'], ignores: ['insulation'] },
  ...{ tolerance: settings.tolerance, clearance: 0 },
};
const [one, other] = [ruled(['architecture', 'structure']), ruled(['services'])];
function ruled(of: Disciplines): RuledModel {
  const { scene, table, properties } = prepareModel(largeModel(ELEMENTS, undefined, of), api);
  return { content: { scene, table, properties: decodeProperties(properties.buffer) }, parts: {} };
}
const earlier = runRule(rule, one, other).clashes;
const changed = new Set(other.content.table.globalId.filter((_, row) => row % 100 === 0));
const carried = { a: new Set<string>(), b: changed, clashes: earlier };
const again = await alternating(
  async () => runRule(rule, one, other, carried),
  async () => runRule(rule, one, other),
  15,
);
const same = runRule(rule, one, other, carried).clashes.length;
if (same !== earlier.length) throw new Error(`${same} clashes again, ${earlier.length} before`);
report('a rule again after one part changed, ms, against all of it', again, { atMost: 0.1 });
