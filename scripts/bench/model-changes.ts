/** Comparing two versions of a model of 50,000 elements, against web-ifc opening both. */
import { compareModels, type ComparedModel } from '@kindred/core/compare/compare-models';
import { prepareModel } from '@kindred/core/scene/prepare-model';
import { decodeProperties } from '@kindred/core/scene/property-file';
import type { Part } from '../../packages/demo/src/building/parts.ts';
import { webIfc } from '../../packages/server/src/preparation/web-ifc.ts';
import { largeModel } from './large-model.ts';
import { openAlone } from './open-alone.ts';
import { ratio, report, timed } from './measure.ts';

const ELEMENTS = 50_000;
const api = await webIfc();

function read(bytes: Uint8Array): ComparedModel {
  const { scene, table, properties } = prepareModel(bytes, api);
  return { scene, table, properties: decodeProperties(properties.buffer) };
}
/** One in fifty moved, one in fifty grown, one in fifty said otherwise. */
const edited = (part: Part, i: number): Part => {
  if (i % 50 === 7) return { ...part, at: [part.at[0] + 0.4, part.at[1], part.at[2]] };
  if (i % 50 === 17) return { ...part, size: [part.size[0], part.size[1], part.size[2] + 0.1] };
  if (i % 50 === 27) return { ...part, material: `${part.material} B` };
  return part;
};
const anew = (part: Part): Part => ({ ...part, key: `anew/${part.key}` });

const first = largeModel(ELEMENTS);
const second = largeModel(ELEMENTS, edited);
const before = read(first);
const after = read(second);
const renamed = read(largeModel(ELEMENTS, (part, i) => anew(edited(part, i))));
const baseline = (): Promise<number> => timed(() => (openAlone(api, first), openAlone(api, second)));

for (const [title, other] of [
  ['', after],
  [', all GlobalIds new', renamed],
] as const) {
  const found = compareModels(before, other);
  console.log(
    `       ${found.changed.length} changed, ${found.added.length} added, ${found.removed.length} removed, ${found.unchanged.length} unchanged`,
  );
  const times = await ratio(() => timed(() => compareModels(before, other)), baseline, 3);
  report(`comparing two versions of 50,000 elements${title}, ms, against opening both`, times, { atMost: 1 });
}

const half = [read(largeModel(ELEMENTS / 2)), read(largeModel(ELEMENTS / 2, edited))] as const;
const growth = await ratio(
  () => timed(() => compareModels(before, after)),
  () => timed(() => compareModels(...half)),
  5,
);
report('twice as many elements, against half of them', growth, { atMost: 2 ** 1.15 });
