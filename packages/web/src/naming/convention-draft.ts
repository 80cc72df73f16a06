import { previewConvention, type Convention, type ConventionEffect } from '@kindred/contract/naming/naming';
import type { Convention as Definition, Field } from '@kindred/core/naming/convention';
import { conventionProblems } from '@kindred/core/naming/convention-problems';
import { useDebounceFn } from '@vueuse/core';
import { computed, ref, watch, type Ref } from 'vue';
import { call, unlessRefused } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';

const copyOf = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/** A convention under the pen, with what its change would do to the names that exist. */
export function useConventionDraft(convention: Ref<Convention>) {
  const project = useProject();
  const draft = ref<Definition>(copyOf(convention.value.definition));
  /** The edition that the draft began from: others may make newer ones meanwhile. */
  const from = ref(convention.value.edition);
  const effect = ref<ConventionEffect>();
  const problems = computed(() => conventionProblems(draft.value));
  const dirty = computed(() => JSON.stringify(draft.value) !== JSON.stringify(convention.value.definition));
  const overtaken = computed(() => dirty.value && from.value !== convention.value.edition);

  /** Begins from what holds, or from what was just saved and is not shown yet. */
  function reset({ definition, edition } = convention.value): void {
    draft.value = copyOf(definition);
    from.value = edition;
    effect.value = undefined;
  }
  watch(convention, (now, before) =>
    now.id !== before.id || !dirty.value || sameAsBefore(before) ? reset() : undefined,
  );
  const sameAsBefore = (before: Convention): boolean =>
    JSON.stringify(draft.value) === JSON.stringify(before.definition);

  const ask = useDebounceFn(async () => {
    if (!dirty.value || problems.value.length) return;
    const asked = JSON.stringify(draft.value);
    const answer = await unlessRefused(
      call(previewConvention, {
        params: { ...project.params, conventionId: convention.value.id },
        body: { definition: draft.value },
      }),
    );
    if (asked === JSON.stringify(draft.value)) effect.value = answer;
  }, 400);
  watch(
    draft,
    () => {
      effect.value = undefined;
      if (project.may('naming', 'see')) void ask();
    },
    { deep: true },
  );

  function setKind(i: number, kind: Field['kind']): void {
    const { name } = draft.value.fields[i]!;
    draft.value.fields[i] =
      kind === 'list'
        ? { name, kind, values: [] }
        : kind === 'number'
          ? { name, kind, length: 4 }
          : { name, kind, pattern: '[A-Z0-9]+', minLength: 2, maxLength: 6 };
  }
  function addField(): void {
    const taken = new Set(draft.value.fields.map(({ name }) => name));
    let n = draft.value.fields.length + 1;
    while (taken.has(`Field ${n}`)) n++;
    draft.value.fields.push({ name: `Field ${n}`, kind: 'number', length: 2 });
  }
  function moveField(i: number, by: -1 | 1): void {
    const { fields } = draft.value;
    [fields[i], fields[i + by]] = [fields[i + by]!, fields[i]!];
  }
  return { draft, from, effect, problems, dirty, overtaken, reset, setKind, addField, moveField };
}
