/** glTF 2.0, as one file: binary, or JSON with its data inside. The default scene, at rest; no textures, no skins. */
import { WebIO, type Accessor, type Document, type JSONDocument, type Material, type Node } from '@gltf-transform/core';
import { Logger } from '@gltf-transform/core';
import { ALL_EXTENSIONS, type InstancedMesh } from '@gltf-transform/extensions';
import { CodedError } from '../platform/coded-error.ts';
import type { Property } from './ifc-properties.ts';
import type { MeshObject, MeshPart, MeshScene } from './mesh-scene.ts';

const GLB_MAGIC = 0x46546c67;

/** Throws CodedError: `damaged-gltf` with the reader's reason, `gltf-beside` with the names of files that it needs. */
export async function readGltf(bytes: Uint8Array): Promise<MeshScene> {
  const document = await readDocument(bytes);
  const root = document.getRoot();
  const scene = root.getDefaultScene() ?? root.listScenes()[0];
  const reader = new SceneReader();
  for (const node of scene?.listChildren() ?? []) reader.add(node, -1);
  const { generator } = root.getAsset();
  return {
    format: 'glTF',
    application: generator ?? '',
    groups: reader.groups,
    objects: reader.objects,
    notes: root.listTextures().length ? [{ code: 'no-textures', values: {} }] : [],
  };
}

async function readDocument(bytes: Uint8Array): Promise<Document> {
  const io = new WebIO().setLogger(new Logger(Logger.Verbosity.SILENT)).setStrictResources(false);
  io.registerExtensions(ALL_EXTENSIONS);
  try {
    const isBinary = new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true) === GLB_MAGIC;
    const file: JSONDocument = isBinary
      ? await io.binaryToJSON(bytes)
      : { json: JSON.parse(new TextDecoder().decode(bytes)) as JSONDocument['json'], resources: {} };
    const beside = (file.json.buffers ?? []).flatMap(({ uri }) => (uri && !isInside(uri, file) ? [uri] : []));
    if (beside.length) throw new CodedError('gltf-beside', { files: beside });
    io.registerDependencies(await decodersFor(file.json.extensionsUsed ?? []));
    return await io.readJSON(file);
  } catch (error) {
    // Whatever the reader stumbles over lies in the file; what it says is told as it is.
    if (error instanceof CodedError) throw error;
    throw new CodedError('damaged-gltf', { reason: (error as Error).message.slice(0, 200) });
  }
}

const isInside = (uri: string, { resources }: JSONDocument): boolean => uri.startsWith('data:') || uri in resources;

async function decodersFor(extensions: readonly string[]): Promise<Record<string, unknown>> {
  const decoders: Record<string, unknown> = {};
  if (extensions.some((name) => /meshopt_compression$/.test(name))) {
    const { MeshoptDecoder } = await import('meshoptimizer/decoder');
    await MeshoptDecoder.ready;
    decoders['meshopt.decoder'] = MeshoptDecoder;
  }
  if (extensions.includes('KHR_draco_mesh_compression')) {
    const { default: draco } = await import('draco3dgltf');
    decoders['draco3d.decoder'] = await draco.createDecoderModule();
  }
  return decoders;
}

class SceneReader {
  readonly groups: MeshScene['groups'] = [];
  readonly objects: MeshObject[] = [];
  private readonly parts = new Map<unknown, MeshPart[]>();

  /** A node and all under it. */
  add(top: Node, group: number): void {
    const open: [node: Node, group: number][] = [[top, group]];
    const seen = new Set<Node>();
    while (open.length) {
      const [node, within] = open.pop()!;
      if (seen.has(node)) continue;
      seen.add(node);
      this.addObjects(node, within);
      const children = node.listChildren();
      if (!children.length) continue;
      const own = this.groups.push({ name: node.getName() || `Group ${this.groups.length + 1}`, parent: within }) - 1;
      for (const child of children.reverse()) open.push([child, own]);
    }
  }

  private addObjects(node: Node, group: number): void {
    const mesh = node.getMesh();
    if (!mesh) return;
    const definition = mesh.getName();
    const name = node.getName() || definition;
    const matrix = node.getWorldMatrix();
    let parts = this.parts.get(mesh);
    if (!parts) this.parts.set(mesh, (parts = mesh.listPrimitives().flatMap((primitive) => partOf(primitive) ?? [])));
    const about = propertiesOf(node.getExtras());
    const repeated = node.getExtension<InstancedMesh>('EXT_mesh_gpu_instancing');
    const places = repeated ? instancesOf(repeated, matrix) : [matrix];
    for (const [i, place] of places.entries())
      this.objects.push({
        name: repeated ? `${name} ${i + 1}` : name,
        ...{ definition, group, matrix: place, parts, about },
      });
  }
}

type Primitive = ReturnType<NonNullable<ReturnType<Node['getMesh']>>['listPrimitives']>[number];
/** Of the modes of glTF 2.0, those that fill areas. */
const [TRIANGLES, STRIP, FAN] = [4, 5, 6];

function partOf(primitive: Primitive): MeshPart | null {
  const positions = primitive.getAttribute('POSITION');
  const mode = primitive.getMode();
  if (!positions || mode < TRIANGLES) return null;
  const vertices = floatsOf(positions, 3);
  const count = positions.getCount();
  const given = primitive.getIndices()?.getArray();
  const order = given ? Uint32Array.from(given) : Uint32Array.from({ length: count }, (_, i) => i);
  const indices = trianglesOf(order, mode).map((index) => (index < count ? index : 0));
  const material = primitive.getMaterial();
  return { vertices, indices, colour: colourOf(material), material: material?.getName() ?? '' };
}

function trianglesOf(order: Uint32Array, mode: number): Uint32Array {
  if (mode === TRIANGLES) return order.subarray(0, order.length - (order.length % 3));
  const count = Math.max(0, order.length - 2);
  const triangles = new Uint32Array(count * 3);
  for (let i = 0; i < count; i++) {
    // Every second triangle of a strip runs the other way round.
    const odd = mode === STRIP && i % 2;
    const first = mode === FAN ? order[0]! : order[i]!;
    const [b, c] = [order[i + 1]!, order[i + 2]!];
    triangles.set(odd ? [first, c, b] : [first, b, c], i * 3);
  }
  return triangles;
}

/** Numbers may be stored as parts of 255 or 65535. */
function floatsOf(accessor: Accessor, size: number): Float32Array {
  const array = accessor.getArray();
  if (array instanceof Float32Array) return array;
  const floats = new Float32Array(accessor.getCount() * size);
  const one: number[] = [];
  for (let i = 0; i < accessor.getCount(); i++) floats.set(accessor.getElement(i, one).slice(0, size), i * size);
  return floats;
}

const UNPAINTED = { x: 0.72, y: 0.72, z: 0.72, w: 1 };

function colourOf(material: Material | null): MeshPart['colour'] {
  if (!material) return UNPAINTED;
  const [r, g, b, opacity] = material.getBaseColorFactor();
  return { x: shown(r), y: shown(g), z: shown(b), w: material.getAlphaMode() === 'BLEND' ? opacity : 1 };
}
/** Factors are amounts of light; pictures hold them as sRGB (IEC 61966-2-1). */
const shown = (light: number): number => (light <= 0.0031308 ? light * 12.92 : 1.055 * light ** (1 / 2.4) - 0.055);

/** Matrices of the copies of a mesh, each within the node's own. */
function instancesOf(repeated: InstancedMesh, within: ArrayLike<number>): Float64Array[] {
  const [places, turns, sizes] = ['TRANSLATION', 'ROTATION', 'SCALE'].map((name) => repeated.getAttribute(name));
  const count = places?.getCount() ?? turns?.getCount() ?? sizes?.getCount() ?? 0;
  const at = (accessor: Accessor | null | undefined, i: number, otherwise: number[]): number[] =>
    accessor ? accessor.getElement(i, []) : otherwise;
  return Array.from({ length: count }, (_, i) =>
    times(within, matrixOf(at(places, i, [0, 0, 0]), at(turns, i, [0, 0, 0, 1]), at(sizes, i, [1, 1, 1]))),
  );
}

function matrixOf(place: number[], [x = 0, y = 0, z = 0, w = 1]: number[], size: number[]): Float64Array {
  const rotation = [
    [1 - 2 * (y * y + z * z), 2 * (x * y + z * w), 2 * (x * z - y * w)],
    [2 * (x * y - z * w), 1 - 2 * (x * x + z * z), 2 * (y * z + x * w)],
    [2 * (x * z + y * w), 2 * (y * z - x * w), 1 - 2 * (x * x + y * y)],
  ];
  const columns = rotation.flatMap((column, k) => [...column.map((value) => value * size[k]!), 0]);
  return Float64Array.from([...columns, ...place, 1]);
}

function times(a: ArrayLike<number>, b: ArrayLike<number>): Float64Array {
  const product = new Float64Array(16);
  for (let column = 0; column < 4; column++)
    for (let row = 0; row < 4; row++)
      for (let k = 0; k < 4; k++) product[column * 4 + row]! += a[k * 4 + row]! * b[column * 4 + k]!;
  return product;
}

function propertiesOf(extras: Record<string, unknown>): Property[] {
  return Object.entries(extras).flatMap(([name, value]) =>
    typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean' ? [{ name, value }] : [],
  );
}
