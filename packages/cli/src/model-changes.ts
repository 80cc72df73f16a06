import { compareModels, type ComparedModel, type ElementChange } from '@kindred/core/compare/compare-models';
import type { PropertyChange } from '@kindred/core/compare/compare-properties';
import { decodeProperties } from '@kindred/core/scene/property-file';
import type { PreparedModel } from '@kindred/core/scene/prepare-model';
import { sayPropertyChange, sayMotion, sayShapeChange } from '@kindred/words/model-changes';
import { progressBar } from './progress.ts';

/** How many pairs between two looks at the bar. */
const STEP = 500;

export function listModelChanges(before: PreparedModel, after: PreparedModel) {
  const [left, right] = [compared(before), compared(after)];
  const bar = progressBar();
  const found = compareModels(left, right, (done, of) => {
    if (done % STEP === 0) bar.show('comparing', done / of);
  });
  bar.end();
  const data = {
    added: found.added.map((row) => named(right, row)),
    removed: found.removed.map((row) => named(left, row)),
    changed: found.changed.map((change) => ({
      ...named(right, change.after),
      ...(change.renamed && { globalIdBefore: left.table.globalId[change.before]! }),
      ...(change.moved && { moved: change.moved.map(rounded) }),
      ...(change.turned && {
        turned: { axis: change.turned.axis.map(rounded), degrees: rounded(change.turned.degrees) },
      }),
      ...(change.geometry && { geometry: change.geometry }),
      properties: change.properties.map(listed),
    })),
    unchanged: found.unchanged.length,
  };
  return {
    data,
    text: [...(found.motion ? [`${sayMotion(found.motion)}.`] : []), text(data, found.changed)].join('\n'),
    findings: data.added.length + data.removed.length + data.changed.length,
  };
}

const compared = ({ scene, table, properties }: PreparedModel): ComparedModel => ({
  ...{ scene, table },
  properties: decodeProperties(properties.buffer),
});

const named = ({ table }: ComparedModel, row: number) => ({
  globalId: table.globalId[row]!,
  class: table.classes[table.class[row]!]!,
  name: table.name[row]!,
});

const rounded = (value: number): number => Math.round(value * 1e6) / 1e6 + 0;

function listed({ set, name, before, after }: PropertyChange) {
  const units = {
    ...(before?.unit !== undefined && before.unit !== after?.unit && { unitBefore: before.unit }),
    ...(after?.unit !== undefined && { unit: after.unit }),
  };
  return { set, name, before: before?.value ?? null, after: after?.value ?? null, ...units };
}

interface Named {
  globalId: string;
  class: string;
  name: string;
}
function text(
  { added, removed, changed, unchanged }: { added: Named[]; removed: Named[]; changed: Named[]; unchanged: number },
  changes: readonly ElementChange[],
): string {
  const line = (sign: string, { class: of, name, globalId }: Named): string =>
    `${sign} ${of} ${name || '(no name)'} ${globalId}`;
  return [
    `${added.length} added, ${removed.length} removed, ${changed.length} changed, ${unchanged} unchanged`,
    ...added.map((element) => line('+', element)),
    ...removed.map((element) => line('-', element)),
    ...changed.flatMap((element, i) => {
      const { properties, renamed, ...shape } = changes[i]!;
      const said = [sayShapeChange(shape), ...(renamed ? ['under another GlobalId now'] : [])].filter(Boolean);
      return [
        line('~', element) + (said.length ? `: ${said.join(', ')}` : ''),
        ...properties.map((change) => `    ${sayPropertyChange(change)}`),
      ];
    }),
  ].join('\n');
}
