import { computed, ref, watch } from 'vue';

interface Numbered {
  id: string;
  number: number;
}
interface Shown<V extends Numbered> {
  container: { id: string; versionId: string; versionNumber: number };
  versions: readonly V[];
}

/**
 * The version that is on the table: the one that the address names, else the one that was current when the drawing was opened. A
 * newer one is offered, it does not push this one away, unless somebody follows newer versions.
 */
export function useShownVersion<V extends Numbered>(
  shown: () => Shown<V> | null,
  named: () => number,
  follows: () => boolean,
) {
  const pinned = ref(0);
  watch(
    () => {
      const container = shown()?.container;
      return container && ([container.id, container.versionNumber] as const);
    },
    (now, before) => {
      if (now && (now[0] !== before?.[0] || follows())) pinned.value = now[1];
    },
    { immediate: true },
  );
  return computed((): V | null => {
    const open = shown();
    if (!open) return null;
    const numbered = (wanted: number) => open.versions.find(({ number }) => number === wanted);
    return (
      numbered(named()) ??
      numbered(pinned.value) ??
      open.versions.find(({ id }) => id === open.container.versionId) ??
      null
    );
  });
}
