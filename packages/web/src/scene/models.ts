/** What is opened of a prepared version. */
import { downloadProduct } from '@kindred/contract/register/register';
import { decodeScene, type ScenePackage } from '@kindred/core/scene/package';
import type { PickerTrees } from '@kindred/core/scene/pick';
import type { ElementTable } from '@kindred/core/scene/prepare-model';
import { wrap } from 'comlink';
import { addressOf } from '../platform/api.ts';
import type { Draw } from './engine/draws.ts';
import type { ModelWorker } from './engine/model-worker.ts';

export interface LoadedModel {
  versionId: string;
  /** Of the model in the scene. */
  slot: number;
  table: ElementTable;
}

const NOT_THERE = 'This model is not there, is not prepared yet, or is not shared with you.';

/** Each as soon as it is there: the shapes can be drawn before the table is read, and before rays find them quickly. */
export function loadModel(projectId: string, versionId: string) {
  const address = (product: string): string => addressOf(downloadProduct, { projectId, versionId, product });
  const worker = new Worker(new URL('./engine/model-worker.ts', import.meta.url), { type: 'module' });
  const remote = wrap<ModelWorker>(worker);
  const shapes = remote.load(address('scene')).then((loaded): { pack: ScenePackage; draws: Draw[] } => {
    if (!loaded) throw new Error(NOT_THERE);
    return { pack: decodeScene(loaded.file), draws: loaded.draws };
  });
  const table = fetch(address('elements')).then((response) => {
    if (!response.ok) throw new Error(NOT_THERE);
    return response.json() as Promise<ElementTable>;
  });
  shapes.catch(() => worker.terminate());
  return {
    shapes,
    table,
    /** To be asked for when the shapes are there. */
    trees: (): Promise<PickerTrees> => remote.trees().finally(() => worker.terminate()),
    /** Who asks for no trees says so. */
    close: (): void => worker.terminate(),
  };
}
