/** Loose furniture as a general modeller hands it over: repeated definitions in glTF, grouped by room. Metres, Y up. */
import { Document, WebIO, type Mesh, type Node } from '@gltf-transform/core';
import { Buffer } from 'node:buffer';
import type { FileToSend } from '../story/teller.ts';
import { along, type Vector } from './parts.ts';
import { rooms, type Room } from './rooms.ts';

/** Boxes of a definition: corner, size, colour; the building's axes, standing on the floor. */
type Box = [at: Vector, size: Vector, colour: Vector];
const OAK: Vector = [0.52, 0.36, 0.2];
const CLOTH: Vector = [0.09, 0.2, 0.29];
const STEEL: Vector = [0.4, 0.42, 0.44];
const WHITE: Vector = [0.86, 0.86, 0.84];

const legs = (x: number, y: number, height: number): Box[] =>
  [0.04, x - 0.08].flatMap((dx) => [0.04, y - 0.08].map((dy): Box => [[dx, dy, 0], [0.04, 0.04, height], STEEL]));
const DEFINITIONS: Record<string, Box[]> = {
  'Mess table': [[[0, 0, 0.71], [1.6, 0.8, 0.03], OAK], ...legs(1.6, 0.8, 0.71)],
  'Mess chair': [
    [[0, 0, 0.43], [0.44, 0.44, 0.04], OAK],
    [[0, 0.4, 0.47], [0.44, 0.04, 0.4], OAK],
    ...legs(0.44, 0.44, 0.43),
  ],
  Desk: [[[0, 0, 0.72], [1.4, 0.7, 0.03], WHITE], [[0.9, 0.05, 0.1], [0.45, 0.6, 0.6], STEEL], ...legs(1.4, 0.7, 0.72)],
  'Drying rack': [
    [[0, 0, 0.2], [1.2, 0.5, 0.03], STEEL],
    [[0, 0, 1.6], [1.2, 0.5, 0.03], STEEL],
    ...legs(1.2, 0.5, 1.7),
  ],
  Sofa: [
    [[0, 0, 0], [1.8, 0.8, 0.42], CLOTH],
    [[0, 0.65, 0.42], [1.8, 0.15, 0.4], CLOTH],
  ],
  Workbench: [[[0, 0, 0.86], [2, 0.7, 0.06], OAK], [[0, 0.1, 0.3], [2, 0.5, 0.03], STEEL], ...legs(2, 0.7, 0.86)],
  Shelf: [0, 0.5, 1, 1.5, 2].map((z): Box => [[0, 0, z], [1, 0.4, 0.03], STEEL]),
};

/** What stands in a room: definition, where from the room's corner. */
const FURNISHED: Record<string, [definition: string, x: number[], y: number[]][]> = {
  Mess: [
    ['Mess table', [0.8, 2.7], [1.2]],
    ['Mess chair', along(0.85, 0.55, 6), [0.6, 2.2]],
  ],
  'Control room': [['Desk', [0.4, 1.9], [0.4, 2.6]]],
  Office: [
    ['Desk', [0.4, 2], [0.4]],
    ['Shelf', [0.3, 1.4], [3]],
  ],
  'Drying room': [['Drying rack', [0.3, 1.7], [0.4, 1.4, 2.4]]],
  Workshop: [
    ['Workbench', [0.4], [0.3, 2.6]],
    ['Shelf', [2.9], [0.3, 1.2]],
  ],
  'Rest room': [['Sofa', [0.5], [0.4, 2.4]]],
  Library: [['Shelf', along(0.3, 1.05, 4), [0.2, 3.3]]],
  Store: [['Shelf', [0.2], [0.3, 1.2, 2.1, 3]]],
};

export async function furnitureFile(): Promise<FileToSend> {
  const document = new Document();
  const scene = document.createScene('Loose furniture');
  const meshes = new Map(Object.entries(DEFINITIONS).map(([name, boxes]) => [name, meshOf(document, name, boxes)]));
  for (const room of rooms()) {
    const pieces = FURNISHED[room.name];
    if (!pieces) continue;
    const group = document.createNode(`${room.number} ${room.name}`);
    for (const [definition, xs, ys] of pieces)
      for (const y of ys) for (const x of xs) group.addChild(piece(document, meshes.get(definition)!, room, x, y));
    scene.addChild(group);
  }
  document.getRoot().setDefaultScene(scene);
  return {
    ...{ code: 'ORP-TVA-CB-ZZ-M-A-0002', title: 'Loose furniture', classification: 'M-ARC', extension: '.glb' },
    bytes: Buffer.from(await new WebIO().writeBinary(document)),
  };
}

function piece(document: Document, mesh: Mesh, { at, number }: Room, x: number, y: number): Node {
  const node = document.createNode(mesh.getName()).setMesh(mesh);
  return node.setTranslation(yUp([at[0] + x, at[1] + y, at[2]])).setExtras({ Room: number, Supplier: 'not chosen' });
}

function meshOf(document: Document, name: string, boxes: readonly Box[]): Mesh {
  const buffer = document.getRoot().listBuffers()[0] ?? document.createBuffer();
  const mesh = document.createMesh(name);
  for (const [at, size, colour] of boxes) {
    const positions = document.createAccessor().setType('VEC3').setBuffer(buffer).setArray(corners(at, size));
    const indices = document.createAccessor().setType('SCALAR').setBuffer(buffer).setArray(FACES.slice());
    const material = document.createMaterial(name).setBaseColorFactor([...colour, 1]);
    mesh.addPrimitive(
      document.createPrimitive().setAttribute('POSITION', positions).setIndices(indices).setMaterial(material),
    );
  }
  return mesh;
}

const yUp = ([x, y, z]: Vector): Vector => [x, z, -y];

function corners(at: Vector, size: Vector): Float32Array {
  const points = Array.from({ length: 8 }, (_, i) =>
    yUp([at[0] + (i & 1 ? size[0] : 0), at[1] + (i & 2 ? size[1] : 0), at[2] + (i & 4 ? size[2] : 0)]),
  );
  return Float32Array.from(points.flat());
}
/** Outwards, counter-clockwise. */
const FACES = Uint16Array.of(
  ...[0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4, 2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7, 5],
);
