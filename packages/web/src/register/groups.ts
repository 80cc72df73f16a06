import {
  groupContainers,
  listContainers,
  type Container,
  type ContainerGroup,
} from '@kindred/contract/register/register';
import { useQuery } from '@pinia/colada';
import { computed, reactive, watch } from 'vue';
import { call } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';
import { fieldOf } from './columns.ts';
import type { RegisterViewState } from './register-view.ts';

interface Opened {
  rows: Container[];
  next: string | null;
}
export type Line =
  | { type: 'group'; group: ContainerGroup; open: boolean }
  | { type: 'row'; container: Container }
  | { type: 'more'; group: ContainerGroup; rest: number };

/** Groups are open from the beginning while they have no more rows than this together. */
const OPENED_AT_FIRST = 60;

/** The register by groups: their counts first, the rows of a group once it is opened. */
export function useGroups(view: RegisterViewState) {
  const project = useProject();
  const by = computed(() => view.query('group'));
  const opened = reactive(new Map<string, Opened>());
  /** Groups that are to be open: an answer for one that was closed meanwhile must not open it again. */
  const wanted = new Set<string>();
  const { data } = useQuery({
    key: () => [project.projectId, 'container', 'groups', by.value, view.filters.value as object],
    query: () => call(groupContainers, { params: project.params, query: { ...view.filters.value, by: by.value } }),
    enabled: () => by.value !== '',
  });
  watch(by, () => {
    opened.clear();
    wanted.clear();
  });
  let begun = '';
  watch(data, (list) => {
    // Whatever changed the counts may have changed the rows.
    for (const value of opened.keys()) void load(value, undefined);
    if (begun === by.value || !list) return;
    begun = by.value;
    let rows = 0;
    for (const group of list) if ((rows += group.count) <= OPENED_AT_FIRST) void load(group.value, undefined);
  });

  function filterOf(value: string) {
    const field = fieldOf(by.value);
    if (!field) return { [by.value]: value || ',' };
    return { fields: JSON.stringify({ ...view.parts.value, [field]: value }) };
  }
  async function load(value: string, after: string | undefined): Promise<void> {
    const query = {
      ...view.filters.value,
      ...view.order.value,
      ...filterOf(value),
      limit: 100,
      ...(after && { after }),
    };
    wanted.add(value);
    const page = await call(listContainers, { params: project.params, query });
    if (!wanted.has(value)) return;
    const earlier = after ? (opened.get(value)?.rows ?? []) : [];
    opened.set(value, { rows: [...earlier, ...page.items], next: page.next });
  }
  function toggle({ value }: ContainerGroup): void {
    if (opened.delete(value)) wanted.delete(value);
    else void load(value, undefined);
  }
  const more = ({ value }: ContainerGroup) => load(value, opened.get(value)?.next ?? undefined);

  const lines = computed((): Line[] =>
    (data.value ?? []).flatMap((group): Line[] => {
      const here = opened.get(group.value);
      return [
        { type: 'group', group, open: here !== undefined },
        ...(here?.rows.map((container): Line => ({ type: 'row', container })) ?? []),
        ...(here?.next ? [{ type: 'more', group, rest: group.count - here.rows.length } as const] : []),
      ];
    }),
  );
  return { by, lines, toggle, more };
}
