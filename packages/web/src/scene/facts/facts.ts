/** What is said of the elements of the models that are open. */
import { downloadProduct } from '@kindred/contract/register/register';
import type { ColumnSummary } from '@kindred/core/scene/element-index';
import { wrap, type Remote } from 'comlink';
import { computed, onScopeDispose, ref, shallowRef, toRaw, watch, type Ref } from 'vue';
import { addressOf } from '../../platform/api.ts';
import { attempt } from '../../platform/say.ts';
import type { LoadedModel } from '../models.ts';
import type { FactsWorker } from './facts-worker.ts';

export type Facts = ReturnType<typeof useElementFacts>;

/** `partsOf`: what the code of a version says, by the names of its parts. */
export function useElementFacts(
  models: Ref<readonly LoadedModel[]>,
  projectId: () => string,
  partsOf: (versionId: string) => Record<string, string>,
) {
  const worker = new Worker(new URL('./facts-worker.ts', import.meta.url), { type: 'module' });
  const remote: Remote<FactsWorker> = wrap<FactsWorker>(worker);
  const open = new Set<number>();
  const columns = shallowRef<ColumnSummary[]>([]);
  /** Grows with each change of what can be asked. */
  const edition = ref(0);
  /** Models whose properties are not there: they were prepared before properties could be asked. */
  const silent = ref<string[]>([]);

  let turns: Promise<unknown> = Promise.resolve();
  async function follow(list: readonly LoadedModel[]): Promise<void> {
    for (const slot of [...open])
      if (!list.some((model) => model.slot === slot)) {
        open.delete(slot);
        await remote.close(slot);
      }
    for (const { slot, versionId, table } of list) {
      if (!open.has(slot)) {
        open.add(slot);
        const address = addressOf(downloadProduct, { projectId: projectId(), versionId, product: 'properties' });
        if (!(await remote.open(slot, toRaw(table), address))) silent.value = [...silent.value, versionId];
      }
      await remote.describe(slot, partsOf(versionId));
    }
    columns.value = await remote.list();
    edition.value++;
  }
  // What one model does not tell must not silence the next.
  const said = computed(() => JSON.stringify(models.value.map(({ versionId }) => partsOf(versionId))));
  watch([models, said], ([list]) => void (turns = turns.then(() => attempt(() => follow(list)))));
  onScopeDispose(() => worker.terminate());
  return { remote, columns, edition, silent };
}
