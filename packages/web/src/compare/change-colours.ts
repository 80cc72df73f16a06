/** In which colours somebody sees changes. */
import type { ChangeKind } from '@kindred/core/compare/change-counts';
import { computed } from 'vue';
import { usePreference } from '../identity/preferences.ts';
import { CHANGE_LOOK } from './change-look.ts';

export type ChangeColours = Record<ChangeKind, string>;
const KINDS = Object.keys(CHANGE_LOOK) as ChangeKind[];

export function useChangeColours() {
  const own = usePreference<Partial<ChangeColours>>('change-colours', {});
  const colours = computed(
    () => Object.fromEntries(KINDS.map((kind) => [kind, own.value[kind] ?? CHANGE_LOOK[kind].colour])) as ChangeColours,
  );
  return {
    colours,
    choose: (kind: ChangeKind, colour: string): void => void (own.value = { ...own.value, [kind]: colour }),
    forget: (): void => void (own.value = {}),
  };
}
