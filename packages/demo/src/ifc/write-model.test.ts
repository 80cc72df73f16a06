import { modelInfo } from '@kindred/core/scene/model-info';
import { drawThumbnail } from '@kindred/core/scene/draw-thumbnail';
import { Picker } from '@kindred/core/scene/pick';
import { prepareModel } from '@kindred/core/scene/prepare-model';
import { readElementProperties } from '@kindred/core/scene/property-file';
import type { IfcAPI } from 'web-ifc';
import { beforeAll, describe, expect, it } from 'vitest';
import { detectContent } from '@kindred/core/register/file-content';
import { prepareModelFile } from '@kindred/core/scene/prepare-model-file';
import { architecture } from '../building/architecture.ts';
import { electrical } from '../building/electrical.ts';
import { furnitureFile } from '../building/furniture-file.ts';
import { rooms } from '../building/rooms.ts';
import { yard } from '../building/yard.ts';
import { services } from '../building/services.ts';
import { structure } from '../building/structure.ts';
import { GROUND, type Part } from '../building/parts.ts';
import { kernel } from './kernel.fixture.ts';
import { globalId, STATION_SURVEY, writeModel } from './write-model.ts';

let api: IfcAPI;
beforeAll(async () => {
  api = await kernel();
});
const prepare = (text: string) => prepareModel(new TextEncoder().encode(text), api);
const options = { title: 'Test', organisation: 'Nobody', schema: 'IFC4' as const, survey: STATION_SURVEY };

describe('models of the demo', () => {
  it('hold every part as an element, with its class, storey, type and properties', async () => {
    const parts = architecture({ number: 1 });
    const model = prepare(writeModel(parts, options));
    const info = modelInfo(model);
    expect(info).toMatchObject({ schema: 'IFC4', lengthUnit: 'millimetre', elements: parts.length });
    expect(info.byClass.IfcWall).toBe(parts.filter(({ class: name }) => name === 'IFCWALL').length);
    expect(info.storeys.map(({ elevation }) => elevation)).toEqual([4.2, 8.1, 11.7]);
    expect(info.storeys.reduce((sum, storey) => sum + storey.elements, 0)).toBe(parts.length);
    expect(model.table.survey).toMatchObject({ eastings: 348_600, northings: 5_912_400 });
    expect(model.table.survey!.rotation).toBeCloseTo(23, 4);

    const row = model.table.globalId.indexOf(globalId('Test/W-00-S'));
    expect(model.table.types[model.table.type[row]!]).toBe('Masonry cavity 350');
    const sets = await readElementProperties(
      async (offset, length) => model.properties.subarray(offset, offset + length),
      row,
    );
    const common = sets.find(({ name }) => name === 'Pset_WallCommon')!;
    expect(common.properties).toContainEqual({ name: 'IsExternal', value: true });
    expect(common.properties).toContainEqual({ name: 'ThermalTransmittance', value: 0.18, unit: 'W/(m²·K)' });
    const quantities = sets.find(({ kind }) => kind === 'quantities')!;
    expect(quantities.properties).toContainEqual({ name: 'GrossVolume', value: 30.24, unit: 'm³' });
    expect(sets.find(({ kind }) => kind === 'materials')!.properties).toEqual([
      { name: 'Material', value: 'Rendered masonry' },
    ]);
  });

  it('stand where their parts stand', () => {
    const part: Part = {
      key: 'one',
      class: 'IFCWALL',
      name: 'One',
      type: 'T',
      material: 'M',
      colour: [1, 0, 0],
      storey: '00 Ground',
      at: [3, 4, 5],
      size: [1, 2, 3],
    };
    const { bounds } = modelInfo(prepare(writeModel([part], options)));
    [3, 4, 5].forEach((value, i) => expect(bounds.min[i]).toBeCloseTo(value, 4));
    [4, 6, 8].forEach((value, i) => expect(bounds.max[i]).toBeCloseTo(value, 4));
  });

  it('are read in IFC2X3 too', () => {
    const parts = services({ number: 2 });
    expect(modelInfo(prepare(writeModel(parts, { ...options, schema: 'IFC2X3' })))).toMatchObject({
      schema: 'IFC2X3',
      elements: parts.length,
    });
  });

  it('are as exact 452 km east as at the origin', () => {
    const far: [number, number, number] = [452_000.123, 5_912_400.456, 0];
    const near = prepare(writeModel(structure({ number: 1 }), options)).scene;
    const away = prepare(writeModel(structure({ number: 1 }), { ...options, offset: far })).scene;
    const shift = far.map((value, i) => away.origin[i]! - near.origin[i]! - value);
    let worst = 0;
    near.instances.matrix.forEach((value, i) => {
      const expected = i % 12 >= 9 ? value - shift[(i % 12) - 9]! : value;
      worst = Math.max(worst, Math.abs(away.instances.matrix[i]! - expected));
    });
    expect(worst).toBeLessThan(1e-4);
  });

  it('change between editions as the story says', () => {
    const keys = (edition: 1 | 2) => new Set(structure({ number: edition }).map(({ key }) => key));
    const gone = [...keys(1)].filter((key) => !keys(2).has(key));
    expect(gone.sort()).toEqual(['BOLT-4N-0', 'BOLT-4N-1', 'BOLT-4N-2', 'BOLT-4N-3', 'BP-4N']);
  });

  it('without geometry give an empty scene and say so', () => {
    const model = prepare(writeModel([], options));
    expect(model.table.notes.map(({ code }) => code)).toContain('no-shapes');
    expect(model.scene.instances.shape).toHaveLength(0);
  });

  it('show in a thumbnail', () => {
    const { width, height, pixels } = drawThumbnail(
      prepare(writeModel(structure({ number: 1 }), options)).scene,
      120,
      80,
    );
    const drawn = pixels.filter((_, i) => i % 4 === 3 && pixels[i] === 255).length;
    expect(drawn).toBeGreaterThan(width * height * 0.03);
  });
});

it('GlobalIds are stable, 22 characters, and begin with 0 to 3', () => {
  expect(globalId('a')).toBe(globalId('a'));
  expect(globalId('a')).not.toBe(globalId('b'));
  expect(globalId('x')).toMatch(/^[0-3][0-9A-Za-z_$]{21}$/);
});

it('walls of one shape with openings of their own are cut each for itself', () => {
  const wall = (key: string, y: number, hole: number): Part => ({
    ...{ key, class: 'IFCWALL', name: key, type: 'Wall', material: 'Brick', colour: [0.5, 0.5, 0.5], storey: GROUND },
    ...{ at: [0, y, 4.2], size: [6, 0.2, 3], voids: [{ at: [hole, y - 0.1, 4.2], size: [1, 0.4, 2] }] },
  });
  const { scene } = prepare(writeModel([wall('one', 0, 1), wall('other', 2, 4)], options));
  const picker = new Picker(scene);
  const through = (x: number): number | undefined => {
    const from = [x - scene.origin[0], -5 - scene.origin[1], 5 - scene.origin[2]] as const;
    return picker.pick(from, [0, 1, 0], () => true)?.distance;
  };
  expect(through(1.5)).toBeCloseTo(7, 2);
  expect(through(4.5)).toBeCloseTo(5, 2);
  expect(through(3)).toBeCloseTo(5, 2);
});

describe('the five models of the station', () => {
  const editions = [1, 2, 3] as const;
  it.each([
    ['electrical', editions.map(electrical)],
    ['slipway and yard', editions.map(yard)],
    ['architecture', [architecture({ number: 1 }), architecture({ number: 1.5 }), architecture({ number: 2 })]],
    ['structure', [structure({ number: 1 }), structure({ number: 1.5 }), structure({ number: 2 })]],
    ['services', [services({ number: 1 }), services({ number: 1.5 }), services({ number: 2 })]],
  ])('%s has hundreds of elements, none twice, each edition another', (_name, versions) => {
    for (const parts of versions) {
      expect(parts.length).toBeGreaterThanOrEqual(800);
      expect(parts.length).toBeLessThan(4000);
      expect(new Set(parts.map(({ key }) => key)).size).toBe(parts.length);
    }
    expect(new Set(versions.map((parts) => JSON.stringify(parts))).size).toBe(3);
  });

  it('are drawn whole, with real types and systems', () => {
    for (const parts of [electrical(3), yard(3)]) {
      const { table } = prepare(writeModel(parts, options));
      expect([table.globalId.length, table.notes]).toEqual([parts.length, []]);
    }
  });

  it('have rooms as spaces, which are no elements', () => {
    const all = rooms();
    const { table } = prepare(writeModel(architecture({ number: 2 }), { ...options, rooms: all }));
    const spaces = table.nodes.filter(({ class: of }) => of === 'IfcSpace');
    expect(spaces.map(({ name }) => name).sort()).toEqual(all.map(({ number }) => number).sort());
    expect(table.globalId).toHaveLength(architecture({ number: 2 }).length);
  });

  it('have furniture from a general modeller', async () => {
    const { bytes } = await furnitureFile();
    const { mediaType } = await detectContent(bytes.subarray(0, 4096));
    const { table, bounds } = await prepareModelFile(bytes, mediaType, () => Promise.resolve(api));
    expect(table.types).toContain('Mess chair');
    expect(table.nodes.map(({ name }) => name)).toContain('01.11 Mess');
    // On the floors of the crew building.
    expect(bounds.elements[2]).toBeCloseTo(4.2);
    expect(bounds.elements[0]).toBeGreaterThan(36);
  });
});
