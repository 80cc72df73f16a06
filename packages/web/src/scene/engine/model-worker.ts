/** Fetches the parts of a scene, makes their draws, and then the trees that rays are sent through: beside the page. */
import { decodeScene, encodeScene, type ScenePackage } from '@kindred/core/scene/package';
import type { PickerTrees } from '@kindred/core/scene/pick';
import { placeScene, type Placing } from '@kindred/core/scene/placing';
import { expose, transfer } from 'comlink';
import { drawsOf, MOST_DRAWS, type Draw } from './draws.ts';

export interface LoadedPart {
  /** As it was fetched, with room behind it for what the graphics card takes along. */
  file: ArrayBuffer;
  draws: Draw[];
}

/** Bytes of a row of places on the graphics card. */
const ROOM = 512 * 48;
/** Kept until the trees are asked for. */
const parts = new Map<number, ScenePackage>();
let mostDraws = MOST_DRAWS;

const loading = {
  /** Null where there is no such package, or not for this person. */
  async load(address: string, part: number, placing: Placing | null): Promise<LoadedPart | null> {
    const response = await fetch(address);
    if (!response.ok) return null;
    const kept = await response.arrayBuffer();
    const fetched = placing ? encodeScene(placeScene(decodeScene(kept), placing)).buffer : kept;
    const file = new ArrayBuffer(fetched.byteLength + ROOM);
    new Uint8Array(file).set(new Uint8Array(fetched));
    const scene = decodeScene(fetched);
    parts.set(part, scene);
    if (scene.parts) mostDraws = Math.ceil(MOST_DRAWS / (scene.parts.places.length + 1));
    const draws = drawsOf(scene, mostDraws);
    const arrays = draws.flatMap(({ positions, indices, instances }) => [positions, indices, instances]);
    return transfer({ file, draws }, [file, ...new Set(arrays.map(({ buffer }) => buffer as ArrayBuffer))]);
  },
  async trees(part: number): Promise<PickerTrees> {
    // Not needed for the picture: it waits for nothing that is only for rays.
    const { Picker } = await import('@kindred/core/scene/pick');
    const picker = new Picker(parts.get(part)!);
    parts.delete(part);
    return { shapes: picker.shapes.serialise(), instances: picker.instances.serialise() };
  },
};
export type ModelWorker = typeof loading;
expose(loading);
