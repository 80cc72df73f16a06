import { reactive, ref, shallowRef, type Ref } from 'vue';
import type { ElementRef } from './scene-engine.ts';

/** What is drawn of elements, as far as selection and visibility go. */
export interface Painter {
  setSelected(ref: ElementRef, selected: boolean): void;
  setVisible(ref: ElementRef, visible: boolean): void;
}

export const keyOf = ({ model, row }: ElementRef): string => `${model}#${row}`;

/** Which elements are selected, hidden or isolated; the painter is told of each that changes. */
export function useElementState(painter: Ref<Painter | undefined>, everything: () => ElementRef[]) {
  const selection = ref<ElementRef[]>([]);
  const hidden = reactive(new Map<string, ElementRef>());
  const isolated = shallowRef<Map<string, ElementRef> | null>(null);
  const byKey = (refs: readonly ElementRef[]) => new Map(refs.map((ref) => [keyOf(ref), ref]));

  /** `add`: beside what is selected; what is selected already is taken out again. */
  function select(refs: readonly ElementRef[], add = false): void {
    const next = byKey(add ? selection.value : []);
    for (const ref of refs) if (!next.delete(keyOf(ref)) || !add) next.set(keyOf(ref), ref);
    for (const ref of selection.value) if (!next.has(keyOf(ref))) painter.value?.setSelected(ref, false);
    for (const ref of next.values()) painter.value?.setSelected(ref, true);
    selection.value = [...next.values()];
  }
  function paint(refs: Iterable<ElementRef>): void {
    for (const ref of refs) {
      const key = keyOf(ref);
      painter.value?.setVisible(ref, !hidden.has(key) && (isolated.value?.has(key) ?? true));
    }
  }
  return {
    selection,
    hidden,
    isolated,
    select,
    isHidden: (ref: ElementRef): boolean => hidden.has(keyOf(ref)),
    hide(refs: readonly ElementRef[]): void {
      for (const ref of refs) hidden.set(keyOf(ref), ref);
      paint(refs);
      select([]);
    },
    isolate(refs: readonly ElementRef[]): void {
      isolated.value = byKey(refs);
      paint(everything());
    },
    showAll(): void {
      hidden.clear();
      isolated.value = null;
      paint(everything());
    },
    /** Hides them if any of them is shown, else shows them all. */
    toggle(refs: readonly ElementRef[]): void {
      const anyShown = refs.some((ref) => !hidden.has(keyOf(ref)));
      for (const ref of refs) anyShown ? hidden.set(keyOf(ref), ref) : hidden.delete(keyOf(ref));
      paint(refs);
    },
    /** All of it at once, as a viewpoint keeps it. */
    apply(state: { hidden: ElementRef[]; isolated: ElementRef[] | null; selection: ElementRef[] }): void {
      hidden.clear();
      for (const ref of state.hidden) hidden.set(keyOf(ref), ref);
      isolated.value = state.isolated && byKey(state.isolated);
      paint(everything());
      select(state.selection);
    },
  };
}
