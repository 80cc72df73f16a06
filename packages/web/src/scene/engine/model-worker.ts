/** Fetches a scene package, makes its draws, and then the trees that rays are sent through: beside the page. */
import { decodeScene, type ScenePackage } from '@kindred/core/scene/package';
import { Picker, type PickerTrees } from '@kindred/core/scene/pick';
import { expose, transfer } from 'comlink';
import { drawsOf, type Draw } from './draws.ts';

export interface LoadedScene {
  /** As it was fetched. */
  file: ArrayBuffer;
  draws: Draw[];
}

let scene: ScenePackage | undefined;

const loading = {
  /** Null where there is no such package, or not for this person. */
  async load(address: string): Promise<LoadedScene | null> {
    const response = await fetch(address);
    if (!response.ok) return null;
    const file = await response.arrayBuffer();
    scene = decodeScene(file.slice(0));
    const draws = drawsOf(scene);
    const arrays = draws.flatMap(({ positions, indices, instances }) => [positions, indices, instances]);
    return transfer({ file, draws }, [file, ...new Set(arrays.map(({ buffer }) => buffer as ArrayBuffer))]);
  },
  async trees(): Promise<PickerTrees> {
    const picker = new Picker(scene!);
    scene = undefined;
    return Promise.resolve({ shapes: picker.shapes.serialise(), instances: picker.instances.serialise() });
  },
};
export type ModelWorker = typeof loading;
expose(loading);
