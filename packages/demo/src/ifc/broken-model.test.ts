/** What is left of a model whose file is broken somewhere, and what is said of the rest. */
import { modelInfo } from '@kindred/core/scene/model-info';
import { prepareModel } from '@kindred/core/scene/prepare-model';
import type { IfcAPI } from 'web-ifc';
import { beforeAll, describe, expect, it } from 'vitest';
import { architecture } from '../building/architecture.ts';
import { kernel } from './kernel.fixture.ts';
import { writeModel } from './write-model.ts';

let api: IfcAPI;
beforeAll(async () => {
  api = await kernel();
}, 60_000);

const parts = architecture({ number: 1 });
const whole = writeModel(parts, { title: 'Station', organisation: 'Nobody', schema: 'IFC4' }).split('\n');
const prepare = (lines: readonly string[]) => prepareModel(new TextEncoder().encode(lines.join('\n')), api);
/** The last line with a class, and the whole file with that line changed; without it where `change` answers none. */
function changed(of: string, change: (line: string) => string | undefined): string[] {
  const at = whole.findLastIndex((line) => line.includes(`=${of}(`));
  const line = change(whole[at]!);
  return [...whole.slice(0, at), ...(line === undefined ? [] : [line]), ...whole.slice(at + 1)];
}
const codes = (prepared: ReturnType<typeof prepare>) => prepared.table.notes.map(({ code }) => code);

describe('a model that is broken somewhere', () => {
  it('says nothing where nothing is wrong', () => {
    const prepared = prepare(whole);
    expect(prepared.table.globalId).toHaveLength(parts.length);
    expect([codes(prepared), prepared.table.undrawn]).toEqual([[], { count: 0, elements: [] }]);
  });

  it.each([
    ['is garbage', () => '\u0000@@@ (((', ['damaged-lines', 'undrawn']],
    ['ends nowhere', (line: string) => line.replace(/\)\);$/, ');'), ['damaged-lines', 'undrawn']],
    ['is missing', () => undefined, ['undrawn']],
  ])('shows all but what a line drew that %s', (_how, change, expected) => {
    const prepared = prepare(changed('IFCPOLYLINE', change));
    expect(codes(prepared)).toEqual(expected);
    const { count, elements } = prepared.table.undrawn!;
    expect(count).toBeGreaterThan(0);
    expect(prepared.table.globalId).toHaveLength(parts.length - count);
    expect(elements[0]).toMatchObject({ reason: 'missing', detail: expect.stringMatching(/^#\d+$/) as string });
  });

  it('names what its program could not write: a shape that is none', () => {
    const { table } = prepare(changed('IFCEXTRUDEDAREASOLID', (line) => `${line.slice(0, line.indexOf('('))}(1,2);`));
    expect(table.undrawn!.elements[0]).toMatchObject({ reason: 'not-built' });
  });

  it('is read until it is cut off', () => {
    const prepared = prepare([...whole.slice(0, whole.length / 2), "#999999=IFCWALL('abc"]);
    expect(prepared.table.globalId.length).toBeGreaterThan(100);
    expect(codes(prepared)).toContain('read-until-cut');
  });

  it('draws at the origin what has lost its place, and says so', () => {
    const prepared = prepare(changed('IFCLOCALPLACEMENT', () => undefined));
    expect(prepared.table.notes).toMatchObject([{ code: 'unplaced', values: { count: 1 } }]);
  });

  it('tells elements that share a GlobalId, missing units, no storeys and no project', () => {
    const id = /'(.{22})'/.exec(whole.find((line) => line.includes('=IFCWALL('))!)![1]!;
    const twice = changed('IFCDOOR', (line) => line.replace(/'.{22}'/, `'${id}'`));
    expect(prepare(twice).table.notes).toEqual([{ code: 'same-global-id', values: { count: 1, ids: [id] } }]);
    expect(codes(prepare(whole.filter((line) => !/=IFCUNITASSIGNMENT/.test(line))))).toContain('no-length-unit');
    const bare = whole.filter((line) => !/=IFC(?:PROJECT|BUILDINGSTOREY)\(/.test(line));
    expect(codes(prepare(bare))).toEqual(expect.arrayContaining(['no-project', 'no-storeys']));
  });

  it('stands where it was drawn, however far away', () => {
    const far = writeModel(parts.slice(0, 20), {
      title: 'Far',
      organisation: 'Nobody',
      schema: 'IFC4',
      offset: [5_000_000, 0, 0],
    });
    const prepared = prepare([far]);
    expect(prepared.table.notes).toEqual([{ code: 'far-away', values: { kilometres: 5000 } }]);
    expect(prepared.bounds.elements[3] - prepared.bounds.elements[0]).toBeLessThan(200);
  });
});

it('what is no element of the building is not counted, whatever shape it has', () => {
  const at = whole.findIndex((line) => line.includes('=IFCFURNISHINGELEMENT('));
  const shaped = (entity: string, tail: string): string =>
    whole[at]!.replace('IFCFURNISHINGELEMENT', entity).replace(/'[^']*'\);$/, `${tail});`);
  for (const [entity, tail] of [
    ['IFCANNOTATION', ''],
    ['IFCSPATIALZONE', '$,$'],
    ['IFCSPACE', '$,.ELEMENT.,.INTERNAL.,$'],
    ['IFCPROXY', '.NOTDEFINED.,$'],
  ] as const) {
    const info = modelInfo(prepare([...whole.slice(0, at), shaped(entity, tail), ...whole.slice(at + 1)]));
    expect([entity, info.elements, info.notes]).toEqual([entity, parts.length - 1, []]);
  }
});
