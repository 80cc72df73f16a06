/** What is opened of a prepared version. */
import { downloadProduct } from '@kindred/contract/register/register';
import { showPlacing } from '@kindred/contract/scene/placings';
import { decodeScene, type ScenePackage } from '@kindred/core/scene/package';
import type { PickerTrees } from '@kindred/core/scene/pick';
import { placeTable } from '@kindred/core/scene/placing';
import type { ElementTable } from '@kindred/core/scene/prepare-model';
import { wrap } from 'comlink';
import { addressOf, call } from '../platform/api.ts';
import type { Draw } from './engine/draws.ts';
import type { ModelWorker } from './engine/model-worker.ts';

export interface LoadedModel {
  versionId: string;
  /** Of the model in the scene. */
  slot: number;
  table: ElementTable;
}

const NOT_THERE = 'This model is not there, is not prepared yet, or is not shared with you.';

/** The model was closed while somebody waited for a part of it. */
export class Closed extends Error {}

export interface LoadedPart {
  pack: ScenePackage;
  draws: Draw[];
}

/** Each as soon as it is asked for and there: the shapes can be drawn before the table is read, and before rays find them quickly. */
export interface ModelSource {
  table(): Promise<ElementTable>;
  /** The first is 0; what further ones there are, it says. */
  part(number: number): Promise<LoadedPart>;
  /** Of a part that is there. */
  trees(part: number): Promise<PickerTrees>;
  close(): void;
}

const begun = (): Worker => new Worker(new URL('./engine/model-worker.ts', import.meta.url), { type: 'module' });
let spare: Worker | undefined;
/** Begins a worker while the person still chooses what to open. */
export function prepareToLoad(): void {
  spare ??= begun();
}

export function loadModel(projectId: string, versionId: string): ModelSource {
  const address = (product: string, part?: number): string =>
    addressOf(downloadProduct, { projectId, versionId, product }, { part });
  const worker = spare ?? begun();
  spare = undefined;
  const remote = wrap<ModelWorker>(worker);
  let end: () => void;
  const ended = new Promise<never>((_, reject) => (end = () => reject(new Closed())));
  // Nobody may be waiting when it ends.
  ended.catch(() => undefined);
  const placed = call(showPlacing, { params: { projectId, versionId } }).then(({ placing }) => placing);
  // Who waits for the shapes hears of it.
  placed.catch(() => undefined);
  return {
    async table() {
      const response = await fetch(address('elements'));
      if (!response.ok) throw new Error(NOT_THERE);
      const table = (await response.json()) as ElementTable;
      const placing = await placed;
      return placing ? placeTable(table, placing) : table;
    },
    async part(number) {
      const placing = await Promise.race([placed, ended]);
      const loaded = await Promise.race([remote.load(address('scene', number || undefined), number, placing), ended]);
      if (!loaded) throw new Error(NOT_THERE);
      return { pack: decodeScene(loaded.file), draws: loaded.draws };
    },
    trees: (part) => Promise.race([remote.trees(part), ended]),
    close() {
      worker.terminate();
      end();
    },
  };
}
