/** The rules of a project, and all clashes of one of them. */
import {
  listClashes,
  listClashGroups,
  listClashRules,
  listClashRuns,
  type Clash,
} from '@kindred/contract/clash/clashes';
import { useQuery } from '@pinia/colada';
import { call } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';

const AT_ONCE = 2000;

export function useClashRules() {
  const project = useProject();
  return useQuery({
    // Changes with every pair of models of a run; the clashes only at its end.
    key: () => [project.projectId, 'clash run', 'rules'],
    query: () => call(listClashRules, { params: project.params }),
  });
}

/** `ruleId`: none where there is no rule yet. */
export function useClashes(ruleId: () => string | undefined) {
  const project = useProject();
  const of = (what: string): string[] => [project.projectId, 'clash rule', what, ruleId() ?? ''];
  const params = () => ({ ...project.params, ruleId: ruleId()! });
  const enabled = (): boolean => ruleId() !== undefined;
  const clashes = useQuery({
    key: () => of('clashes'),
    async query() {
      const all: Clash[] = [];
      for (let after: string | undefined; ;) {
        const { items, next } = await call(listClashes, {
          params: params(),
          query: { limit: AT_ONCE, ...(after !== undefined && { after }) },
        });
        all.push(...items);
        if (next === null) return all;
        after = next;
      }
    },
    enabled,
  });
  const groups = useQuery({
    key: () => of('groups'),
    query: () => call(listClashGroups, { params: params() }),
    enabled,
  });
  const runs = useQuery({
    key: () => of('runs'),
    query: async () => (await call(listClashRuns, { params: params(), query: { limit: 40 } })).items,
    enabled,
  });
  return { clashes: clashes.data, groups: groups.data, runs: runs.data, error: clashes.error };
}
