/** What others of the project have selected in their scenes at this moment, in the colours of their badges. */
import { useDebounceFn } from '@vueuse/core';
import { computed, onScopeDispose, shallowRef, watch, watchEffect, type Ref } from 'vue';
import { useSession } from '../identity/store.ts';
import { useLive, type PresentPerson } from '../platform/live.ts';
import { elementNumber, rowOf, slotOf } from './engine/element-numbers.ts';
import type { PaintLayers } from './engine/paint-layers.ts';
import type { LoadedModel } from './models.ts';

/** More are not told: they would be a picture of their own. */
const MOST = 50;
const LONGEST_ID = 64;

/** The GlobalIds that a message names; undefined where it is about something else. */
export function readSelection(data: unknown): string[] | undefined {
  const { selection } = (data ?? {}) as { selection?: unknown };
  const isId = (one: unknown): one is string => typeof one === 'string' && one.length <= LONGEST_ID;
  return Array.isArray(selection) && selection.length <= MOST && selection.every(isId) ? selection : undefined;
}

export interface OthersSelection {
  person: PresentPerson;
  elements: number[];
}

export function useOthersSelections(
  layers: Ref<PaintLayers | undefined>,
  /** Grows with each change of the layers. */
  painted: Ref<number>,
  models: Ref<readonly LoadedModel[]>,
) {
  const live = useLive();
  const session = useSession();

  const mine = (): string[] =>
    [...(layers.value?.selection ?? [])].slice(0, MOST).flatMap((element) => {
      const table = models.value.find(({ slot }) => slot === slotOf(element))?.table;
      return table?.globalId[rowOf(element)] ?? [];
    });
  let told = '';
  const tell = useDebounceFn((again: boolean) => {
    const selection = mine();
    const text = selection.join();
    if (!again && text === told) return;
    told = text;
    live.tellMomentary({ selection });
  }, 250);
  watch(painted, () => void tell(false));
  // Whoever comes later has not heard it.
  watch(
    () => live.present.map(({ id }) => id).join(),
    () => void tell(true),
  );

  const said = shallowRef<ReadonlyMap<string, string[]>>(new Map());
  const stop = live.onMomentary(({ personId, data }) => {
    const selection = readSelection(data);
    if (selection) said.value = new Map([...said.value, [personId, selection]]);
  });
  onScopeDispose(() => {
    stop();
    live.tellMomentary({ selection: [] });
  });

  const others = computed((): OthersSelection[] => {
    const present = live.present.filter(({ id }) => id !== session.me?.id && said.value.get(id)?.length);
    return present.flatMap((person) => {
      const wanted = new Set(said.value.get(person.id));
      const elements = models.value.flatMap(({ slot, table }) =>
        table.globalId.flatMap((id, row) => (wanted.has(id) ? [elementNumber(slot, row)] : [])),
      );
      return elements.length ? [{ person, elements }] : [];
    });
  });
  watchEffect(() => {
    const colours = others.value.flatMap(({ person, elements }) =>
      elements.map((element) => [element, Number.parseInt(person.colour.slice(1), 16)] as const),
    );
    layers.value?.selectOfOthers(new Map(colours));
  });
  return others;
}
