import { Document, WebIO } from '@gltf-transform/core';
import { EXTMeshGPUInstancing, EXTMeshoptCompression, KHRDracoMeshCompression } from '@gltf-transform/extensions';
import fc from 'fast-check';
import { MeshoptEncoder } from 'meshoptimizer/encoder';
import draco from 'draco3dgltf';
import { describe, expect, it } from 'vitest';
import { CodedError } from '../platform/coded-error.ts';
import { detectContent, MODEL_TYPES } from '../register/file-content.ts';
import { modelInfo } from './model-info.ts';
import { prepareModelFile } from './prepare-model-file.ts';
import { decodeProperties } from './property-file.ts';

const noIfc = (): Promise<never> => Promise.reject(new Error('asked for web-ifc'));
async function prepare(bytes: Uint8Array) {
  const { kind, mediaType } = await detectContent(bytes.subarray(0, 4096));
  expect(kind).toBe('model');
  return prepareModelFile(bytes, mediaType, noIfc);
}
const codeOf = (bytes: Uint8Array, type: string): Promise<string> =>
  prepareModelFile(bytes, type, noIfc).then(
    () => 'read',
    (error: unknown) => (error instanceof CodedError ? error.code : Promise.reject(error as Error)),
  );
const text = (words: string): Uint8Array => new TextEncoder().encode(words);

const BOX = Float32Array.from({ length: 24 }, (_, i) => (Math.floor(i / 3) >> (i % 3)) & 1);
const FACES = Uint16Array.of(
  ...[0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4, 2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7, 5],
);

/** A yard: a group of benches (one definition, three occurrences, one of them turned and twice as large) and a line. */
function yard(): Document {
  const document = new Document();
  const buffer = document.createBuffer();
  const positions = document.createAccessor().setType('VEC3').setArray(BOX.slice()).setBuffer(buffer);
  const indices = document.createAccessor().setType('SCALAR').setArray(FACES.slice()).setBuffer(buffer);
  const oak = document.createMaterial('Oak').setBaseColorFactor([1, 0.5, 0, 0.25]).setAlphaMode('BLEND');
  const box = document.createPrimitive().setAttribute('POSITION', positions).setIndices(indices).setMaterial(oak);
  const bench = document.createMesh('Bench').addPrimitive(box);
  const benches = document.createNode('Benches').setTranslation([10, 0, 0]);
  for (const i of [0, 1])
    benches.addChild(
      document
        .createNode('Bench')
        .setMesh(bench)
        .setTranslation([0, i * 2, 0]),
    );
  const turned = document
    .createNode('Bench large')
    .setMesh(bench)
    .setScale([2, 2, 2])
    .setExtras({ Maker: 'Nobody', kg: 4 });
  benches.addChild(turned.setRotation([0, Math.SQRT1_2, 0, Math.SQRT1_2]).setTranslation([0, 0, -5]));
  const line = document.createPrimitive().setMode(1).setAttribute('POSITION', positions.clone());
  const kerb = document.createNode('Kerb').setMesh(document.createMesh('Line').addPrimitive(line));
  const scene = document.createScene('Yard').addChild(benches).addChild(kerb);
  document.getRoot().setDefaultScene(scene);
  document.createScene('Elsewhere').addChild(document.createNode('Other').setMesh(bench));
  return document;
}

describe('glTF', () => {
  it('is a tree of groups, with definitions as types, materials and what was written at the objects', async () => {
    const { table, scene, bounds, properties } = await prepare(await new WebIO().writeBinary(yard()));
    expect([table.schema, table.lengthUnit]).toEqual(['glTF', 'metre']);
    expect(table.application).toMatch(/^glTF-Transform/);
    expect(table.name).toEqual(['Bench', 'Bench', 'Bench large']);
    expect(new Set(table.globalId).size).toBe(3);
    expect(table.type.map((type) => table.types[type])).toEqual(['Bench', 'Bench', 'Bench']);
    expect(table.nodes.map(({ name, parent }) => [name, parent])).toEqual([['Benches', -1]]);
    // One shape for all; Y up has become Z up.
    expect(scene.shapes.vertexStarts).toHaveLength(2);
    const expected = [10, -1, 0, 12, 7, 3];
    for (const [i, value] of bounds.elements.entries()) expect(value).toBeCloseTo(expected[i]!, 4);
    expect([...scene.instances.colour.subarray(0, 4)]).toEqual([255, 188, 0, 64]);
    const { sets } = decodeProperties(properties.buffer);
    expect(sets.map(({ name, properties: of }) => [name, of])).toEqual([
      ['Material', [{ name: 'Material', value: 'Oak' }]],
      [
        'Extras',
        [
          { name: 'Maker', value: 'Nobody' },
          { name: 'kg', value: 4 },
        ],
      ],
    ]);
    expect(table.undrawn).toMatchObject({ count: 1, elements: [{ name: 'Kerb', reason: 'lines-only' }] });
    expect(modelInfo(await prepare(await new WebIO().writeBinary(yard())))).toMatchObject({
      elements: 3,
      byClass: { Object: 3 },
      triangles: 36,
    });
  });

  it('is the same as text with its data inside, and compressed', async () => {
    const plain = await prepare(await new WebIO().writeBinary(yard()));
    const { json, resources } = await new WebIO().writeJSON(yard());
    for (const buffer of json.buffers!)
      buffer.uri = `data:application/octet-stream;base64,${Buffer.from(resources[buffer.uri!]!).toString('base64')}`;
    const meshopt = yard();
    meshopt.createExtension(EXTMeshoptCompression).setRequired(true);
    await MeshoptEncoder.ready;
    const packed = new WebIO().registerExtensions([EXTMeshoptCompression]);
    packed.registerDependencies({ 'meshopt.encoder': MeshoptEncoder });
    const squeezed = yard();
    squeezed.createExtension(KHRDracoMeshCompression).setRequired(true);
    const dracoIo = new WebIO().registerExtensions([KHRDracoMeshCompression]);
    dracoIo.registerDependencies({ 'draco3d.encoder': await draco.createEncoderModule() });
    for (const bytes of [
      text(JSON.stringify(json, null, 1)),
      await packed.writeBinary(meshopt),
      await dracoIo.writeBinary(squeezed),
    ]) {
      const other = await prepare(bytes);
      expect(other.table.globalId).toEqual(plain.table.globalId);
      expect(modelInfo(other).triangles).toBe(36);
      for (const [i, value] of plain.bounds.elements.entries())
        expect(Math.abs(other.bounds.elements[i]! - value)).toBeLessThan(0.01);
    }
  });

  it('unfolds copies that are placed by the graphics card', async () => {
    const document = yard();
    const node = document.getRoot().getDefaultScene()!.listChildren()[0]!.listChildren()[0]!;
    const places = document
      .createAccessor()
      .setType('VEC3')
      .setArray(Float32Array.of(0, 0, 0, 0, 7, 0));
    const copies = document.createExtension(EXTMeshGPUInstancing).createInstancedMesh();
    node.setExtension(
      'EXT_mesh_gpu_instancing',
      copies.setAttribute('TRANSLATION', places.setBuffer(document.getRoot().listBuffers()[0]!)),
    );
    const { table, bounds } = await prepare(
      await new WebIO().registerExtensions([EXTMeshGPUInstancing]).writeBinary(document),
    );
    expect(table.name).toEqual(['Bench 1', 'Bench 2', 'Bench', 'Bench large']);
    expect(bounds.elements[5]).toBeCloseTo(8);
  });

  it('that needs other files, or is none, is refused with the reason', async () => {
    const { json } = await new WebIO().writeJSON(yard());
    expect(await codeOf(text(JSON.stringify(json)), MODEL_TYPES.gltf)).toBe('gltf-beside');
    const whole = await new WebIO().writeBinary(yard());
    expect(await codeOf(whole.subarray(0, 300), MODEL_TYPES.glb)).toBe('damaged-gltf');
  });

  it('never does anything but be read or be refused, however it is garbled', async () => {
    const whole = await new WebIO().writeBinary(yard());
    await fc.assert(
      fc.asyncProperty(fc.nat(whole.length - 1), fc.nat(255), async (at, byte) => {
        const garbled = whole.slice();
        garbled[at] = byte;
        expect(['read', 'damaged-gltf', 'gltf-beside']).toContain(await codeOf(garbled, MODEL_TYPES.glb));
      }),
      { numRuns: 300 },
    );
  });
});

describe('OBJ', () => {
  const OBJ = [
    '# The Modeller 3',
    'mtllib yard.mtl',
    ...['o Stool.001', 'v 0 0 0', 'v 1 0 0', 'v 1 2 0', 'v 0 2 0', 'usemtl Steel', 'f 1 2 3 4'],
    ...['o Stool.002', 'v 5 0 1', 'v 6 0 1', 'v 6 2 1', 'usemtl Oak', 'f -3 -2 -1'],
    ...['o Path', 'l 1 2'],
    '',
  ].join('\n');

  it('is its objects, with what they are copies of, and their materials', async () => {
    const { table, bounds, properties } = await prepare(text(OBJ));
    expect(table.name).toEqual(['Stool.001', 'Stool.002']);
    expect(table.types).toEqual(['Stool']);
    expect(bounds.elements.map((value) => Math.round(value * 100) / 100 + 0)).toEqual([0, -1, 0, 6, 0, 2]);
    expect(decodeProperties(properties.buffer).sets.map(({ properties: of }) => of[0]!.value)).toEqual([
      'Steel',
      'Oak',
    ]);
    expect(table.notes.map(({ code }) => code)).toEqual(['obj-assumed', 'undrawn']);
  });

  it('never does anything but be read or be refused, however it is garbled', async () => {
    await fc.assert(
      fc.asyncProperty(fc.nat(OBJ.length - 1), fc.string({ maxLength: 5 }), async (at, words) => {
        const garbled = OBJ.slice(0, at) + words + OBJ.slice(at);
        expect(['read', 'damaged-obj']).toContain(await codeOf(text(garbled), MODEL_TYPES.obj));
      }),
      { numRuns: 300 },
    );
  });
});

describe('what looks similar', () => {
  it.each([
    ['JSON of another kind', '{"nodes": [1], "edges": []}'],
    ['notes', '# a list\nv for victory\nsomething else\n'],
    ['a table', 'o g v\n1 2 3\n'],
  ])('%s is no model', async (_name, words) =>
    expect(await detectContent(text(words))).toMatchObject({ kind: 'document' }),
  );
});
