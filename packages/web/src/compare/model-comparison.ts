/** All changes of a kept comparison of models. */
import { listModelChanges } from '@kindred/contract/compare/compare';
import type { ModelChange } from '@kindred/core/compare/list-model-changes';
import { useQuery } from '@pinia/colada';
import { call } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';

const AT_ONCE = 2000;

/** `comparisonId`: none where it has not come to its end. */
export function useModelChanges(comparisonId: () => string | undefined) {
  const project = useProject();
  return useQuery({
    key: () => [project.projectId, 'comparison', 'elements', comparisonId() ?? ''],
    async query() {
      const params = { ...project.params, comparisonId: comparisonId()! };
      const all: ModelChange[] = [];
      for (let after: string | undefined; ;) {
        const { items, next } = await call(listModelChanges, {
          params,
          query: { limit: AT_ONCE, ...(after !== undefined && { after }) },
        });
        all.push(...items);
        if (next === null) return all;
        after = next;
      }
    },
    enabled: () => comparisonId() !== undefined,
  });
}
