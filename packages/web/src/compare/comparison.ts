/** The kept comparison of two versions: asked for once, and known to all who open it. */
import {
  askComparison,
  cancelComparison,
  listComparisons,
  listSheetChanges,
  showBrief,
  showComparison,
} from '@kindred/contract/compare/compare';
import type { NumberedComparison } from '@kindred/core/compare/numbered';
import { Similarity } from '@kindred/core/compare/similarity';
import { useQuery } from '@pinia/colada';
import { computed } from 'vue';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';

export interface ShownComparison extends Omit<NumberedComparison, 'routine'> {
  routine: readonly { before: string; after: string }[];
}

/** `pair`: ids of the two versions; `page`: of the sheet after that is looked at. */
export function useComparison(pair: () => { beforeId: string; afterId: string } | undefined, page: () => number) {
  const project = useProject();
  const key = (...rest: string[]): string[] => [project.projectId, 'comparison', ...rest];
  const { data, error, refetch } = useQuery({
    key: () => key('pair', pair()?.beforeId ?? '', pair()?.afterId ?? ''),
    async query() {
      const ids = pair()!;
      const { items } = await call(listComparisons, { params: project.params, query: ids });
      return items[0]
        ? call(showComparison, { params: { ...project.params, comparisonId: items[0].id } })
        : call(askComparison, { params: project.params, body: ids });
    },
    enabled: () => pair() !== undefined,
  });
  const params = computed(() => ({ ...project.params, comparisonId: data.value?.comparison.id ?? '' }));
  const sheet = computed(() => data.value?.sheets.find(({ afterPage }) => afterPage === page()));
  const { data: found } = useQuery({
    key: () => key('changes', params.value.comparisonId, String(sheet.value?.position ?? '')),
    query: () => call(listSheetChanges, { params: { ...params.value, position: String(sheet.value!.position) } }),
    enabled: () => sheet.value?.outcome === 'compared' || sheet.value?.outcome === 'unlike',
  });
  const { data: brief, refetch: readBrief } = useQuery({
    key: () => key('brief', params.value.comparisonId),
    query: () => call(showBrief, { params: params.value }),
    enabled: () => data.value !== undefined,
  });
  const changes = computed((): ShownComparison | undefined => {
    const all = sheet.value && found.value;
    if (!all || (sheet.value!.outcome !== 'compared' && sheet.value!.outcome !== 'unlike')) return undefined;
    return { ...all, similarity: new Similarity(...all.similarity), unlike: sheet.value!.outcome === 'unlike' };
  });
  return {
    view: data,
    error,
    params,
    sheet,
    changes,
    brief,
    /** What was said changed both. */
    read: () => Promise.all([refetch(), readBrief()]),
    /** Goes on with what was stopped. */
    async resume(): Promise<void> {
      await attempt(() => call(askComparison, { params: project.params, body: pair()! }));
      await refetch();
    },
    async cancel(): Promise<void> {
      await attempt(() => call(cancelComparison, { params: params.value }));
      await refetch();
    },
  };
}
