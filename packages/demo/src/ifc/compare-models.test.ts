import {
  compareModels,
  compareModelsAsWholes,
  type ComparedModel,
  type ModelComparison,
} from '@kindred/core/compare/compare-models';
import { placeScene, type Placing } from '@kindred/core/scene/placing';
import { prepareModel } from '@kindred/core/scene/prepare-model';
import { decodeProperties } from '@kindred/core/scene/property-file';
import type { IfcAPI } from 'web-ifc';
import { beforeAll, describe, expect, it } from 'vitest';
import { architecture } from '../building/architecture.ts';
import { round, type Part } from '../building/parts.ts';
import { services } from '../building/services.ts';
import { structure } from '../building/structure.ts';
import { kernel } from './kernel.fixture.ts';
import { writeModel } from './write-model.ts';

let api: IfcAPI;
beforeAll(async () => {
  api = await kernel();
});
const options = { title: 'Test', organisation: 'Nobody', schema: 'IFC4' as const };
function read(text: string): ComparedModel {
  const { scene, table, properties } = prepareModel(new TextEncoder().encode(text), api);
  return { scene, table, properties: decodeProperties(properties.buffer) };
}
const model = (parts: readonly Part[]): ComparedModel => read(writeModel(parts, options));
const renamed = (parts: readonly Part[]): Part[] => parts.map((part) => ({ ...part, key: `anew/${part.key}` }));
const close = (...values: number[]) => values.map((value) => expect.closeTo(value, 3));

/** By name: what became of the elements that changed. */
function told({ changed }: ModelComparison, { table }: ComparedModel) {
  return new Map(changed.map((change) => [table.name[change.after]!, change]));
}

const parts = architecture({ number: 1 });
const before = (): ComparedModel => model(parts);
const partitions = parts.filter(({ name }) => name.startsWith('Partition wall'));
const [moved, longer, fireproof, gone, turned, both] = partitions as [Part, Part, Part, Part, Part, Part];

function edited(): Part[] {
  const changes = new Map<Part, Partial<Part>>([
    [moved, { at: [moved.at[0] + 0.25, moved.at[1], moved.at[2]] }],
    [
      longer,
      { size: longer.size.map((side) => (side === Math.max(...longer.size) ? side + 0.4 : side)) as Part['size'] },
    ],
    [
      fireproof,
      {
        properties: {
          ...fireproof.properties,
          Pset_WallCommon: { ...fireproof.properties!.Pset_WallCommon, FireRating: 'EI 90' },
        },
      },
    ],
    [turned, { turn: (turned.turn ?? 0) + 30 }],
    [both, { at: [both.at[0], both.at[1] - 0.1, both.at[2]], material: 'Clay' }],
  ]);
  const kept = parts.filter((part) => part !== gone).map((part) => ({ ...part, ...changes.get(part) }));
  return [
    ...kept,
    { ...gone, key: 'quite new', name: 'Quite new', at: [gone.at[0], gone.at[1] + 0.9, gone.at[2]], size: [1, 1, 1] },
  ];
}
function expectEdits(found: ModelComparison, after: ComparedModel): void {
  const changes = told(found, after);
  expect(changes.get(moved.name)).toMatchObject({
    moved: close(0.25, 0, 0),
    turned: null,
    geometry: null,
    properties: [],
  });
  expect(changes.get(longer.name)).toMatchObject({
    geometry: { volume: expect.anything(), length: expect.anything() },
  });
  const [was, is] = changes.get(longer.name)!.geometry!.length!;
  expect(is - was).toBeCloseTo(0.4, 3);
  expect(changes.get(fireproof.name)).toMatchObject({ moved: null, geometry: null });
  expect(changes.get(fireproof.name)!.properties).toContainEqual(
    expect.objectContaining({ set: 'Pset_WallCommon', name: 'FireRating', after: { value: 'EI 90' } }),
  );
  expect(changes.get(turned.name)).toMatchObject({
    turned: { axis: close(0, 0, 1), degrees: expect.closeTo(30, 2) },
    geometry: null,
  });
  expect(changes.get(both.name)).toMatchObject({ moved: close(0, -0.1, 0), geometry: null });
  expect(changes.get(both.name)!.properties.map(({ after }) => after?.value)).toContain('Clay');
  expect(found.added.map((row) => after.table.name[row])).toEqual(['Quite new']);
}

describe('two versions of a model', () => {
  it('that are alike have no changes, whoever numbered and ordered what is in them', () => {
    const found = compareModels(before(), model(parts.toReversed()));
    expect(found).toMatchObject({ added: [], removed: [], changed: [] });
    expect(found.unchanged).toHaveLength(parts.length);
  });

  it('differ in what was edited, and in nothing else', () => {
    const [one, other] = [before(), model(edited())];
    const found = compareModels(one, other);
    expectEdits(found, other);
    expect(found.removed.map((row) => one.table.name[row])).toEqual([gone.name]);
    // What hangs on a wall that was moved or turned stays where it was drawn.
    expect(found.changed).toHaveLength(5);
    expect(found.changed.every((change) => !change.renamed)).toBe(true);
  });

  it('are matched by what elements are where every GlobalId is new', () => {
    const same = compareModels(before(), model(renamed(parts).toReversed()));
    expect(same).toMatchObject({ added: [], removed: [], changed: [] });
    const [one, other] = [before(), model(renamed(edited()))];
    const found = compareModels(one, other);
    expectEdits(found, other);
    expect(found.removed.map((row) => one.table.name[row])).toEqual([gone.name]);
    expect(found.changed.every((change) => change.renamed)).toBe(true);
    for (const { before: row, after } of found.changed) expect(one.table.name[row]).toBe(other.table.name[after]);
  });

  it('are told against the model where that moved and turned as a whole', () => {
    const placing: Placing = { turn: 23, shift: [120, -40, 3] };
    const put = (of: ComparedModel): ComparedModel => ({ ...of, scene: placeScene(of.scene, placing) });
    const one = before();
    const alike = compareModelsAsWholes(one, put(before()));
    expect(alike).toMatchObject({ added: [], removed: [], changed: [] });
    expect(alike.motion).toEqual({ turn: expect.closeTo(23, 4), shift: close(120, -40, 3) });
    const other = put(model(edited()));
    const found = compareModelsAsWholes(one, other);
    expect(found.changed).toHaveLength(5);
    expect(told(found, other).get(turned.name)).toMatchObject({
      turned: { degrees: expect.closeTo(30, 2) },
      geometry: null,
    });
    const away = told(found, other).get(moved.name)!.moved!;
    expect(Math.hypot(...away)).toBeCloseTo(0.25, 3);
    // Each by itself is told too.
    expect(compareModels(one, other).changed.length).toBeGreaterThan(parts.length / 2);
  });

  it('written in another unit are alike', () => {
    const text = writeModel(parts.slice(0, 60), options);
    const metres = inMetres(text);
    expect(metres).not.toBe(text);
    const [one, other] = [read(text), read(metres)];
    expect(other.table.lengthUnit).toBe('metre');
    const found = compareModels(one, other);
    expect(found).toMatchObject({ added: [], removed: [], changed: [] });
  });

  it('tell the story of the demo: what was asked for, and what was not', () => {
    const [one, two] = [model(structure({ number: 1 })), model(structure({ number: 2 }))];
    const found = compareModels(one, two);
    expect(found.removed.map((row) => one.table.name[row])).toContain('Base plate 4N');
    const rooms = architecture({ number: 2 });
    const after = model(rooms);
    const moves = compareModels(before(), after).changed.filter((change) => change.moved && !change.geometry);
    expect(moves.map((change) => after.table.name[change.after])).toContain('Partition wall P-00-2A');
  });

  it('with pipes drawn finer are alike; a wider pipe is not', () => {
    const pipe = (corners: number, diameter: number): Part[] =>
      services({ number: 1 })
        .slice(0, 1)
        .map((part) => ({ ...part, size: [diameter, diameter, 4], profile: round(diameter, corners) }));
    const same = compareModels(model(pipe(12, 0.2)), model(pipe(36, 0.2)));
    // The volume that its author wrote is another one: what is said changed, the pipe did not.
    expect(same.changed).toMatchObject([{ geometry: null, moved: null, turned: null }]);
    expect(same.changed[0]!.properties.map(({ name }) => name)).toEqual(['GrossVolume']);
    const wider = compareModels(model(pipe(12, 0.2)), model(pipe(36, 0.22)));
    expect(wider.changed[0]!.geometry).not.toBeNull();
  });
});

/** The same file in metres: every length that the writer writes in millimetres. */
function inMetres(text: string): string {
  const number = String.raw`-?\d+(?:\.\d*)?(?:E-?\d+)?`;
  const scaled = (list: string): string =>
    list.replace(new RegExp(number, 'g'), (value) => String(Number(value) / 1000).replace(/^(-?\d+)$/, '$1.'));
  return text
    .replace(/IFCSIUNIT\(\*,\.LENGTHUNIT\.,\.MILLI\.,\.METRE\.\)/, 'IFCSIUNIT(*,.LENGTHUNIT.,$,.METRE.)')
    .replace(
      /(IFCCARTESIANPOINT\(\()([^)]*)(\)\))/g,
      (_, head: string, list: string, tail: string) => head + scaled(list) + tail,
    )
    .replace(
      /(IFCBUILDINGSTOREY\(.*,)([^,]+)(\);)/g,
      (_, head: string, list: string, tail: string) => head + scaled(list) + tail,
    )
    .replace(
      /(IFCEXTRUDEDAREASOLID\([^;]*,)([^,;]+)(\);)/g,
      (_, head: string, list: string, tail: string) => head + scaled(list) + tail,
    )
    .replace(
      /(IFCRECTANGLEPROFILEDEF\([^;]*?,)([^,;]+,[^,;]+)(\);)/g,
      (_, head: string, list: string, tail: string) => head + scaled(list) + tail,
    )
    .replace(
      /(IFC(?:POSITIVE)?LENGTHMEASURE\()([^)]*)(\))/g,
      (_, head: string, list: string, tail: string) => head + scaled(list) + tail,
    )
    .replace(/(IFCQUANTITYLENGTH\([^;]*?,\$,\$,)([^,;)]+)/g, (_, head: string, list: string) => head + scaled(list));
}
