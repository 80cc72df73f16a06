import type { Container } from '@kindred/contract/register/register';
import type { Convention } from '@kindred/core/naming/convention';
import { computed, reactive, shallowRef, watch, type ComputedRef, type Ref } from 'vue';
import { createJudge, type Judged } from './intake-verdicts.ts';

/** What a file at the intake shall become. */
export interface Repair {
  code: string;
  title: string;
  status: string;
  revision: string;
  classification: string;
  folderId: string;
  asVersion: boolean;
  /** Why it stayed, when it was tried. */
  problem: string;
}

export interface Waiting {
  wanted: Repair;
  convention: ComputedRef<Convention | undefined>;
  judged: ComputedRef<Judged | undefined>;
}

/**
 * One for each file that waits, kept while the list is asked for anew; what is gone is forgotten. Each is judged by itself: a letter
 * that is typed in one of a thousand touches no other.
 */
export function useRepairs(
  waiting: Ref<readonly Container[]>,
  conventionIn: (folderId: string) => Convention | undefined,
): Ref<ReadonlyMap<string, Waiting>> {
  const judge = createJudge();
  const open = ({ code, title, status, revision, classification, folderId }: Container): Waiting => {
    const values = { code, title, status, revision, classification, folderId, asVersion: false, problem: '' };
    const wanted = reactive<Repair>(values);
    const convention = computed(() => conventionIn(wanted.folderId));
    const judged = computed(() => convention.value && judge(convention.value, wanted.code));
    return { wanted, convention, judged };
  };
  const repairs = shallowRef<ReadonlyMap<string, Waiting>>(new Map());
  watch(
    waiting,
    (list) => {
      repairs.value = new Map(
        list.map((container) => [container.id, repairs.value.get(container.id) ?? open(container)]),
      );
    },
    { immediate: true },
  );
  return repairs;
}
