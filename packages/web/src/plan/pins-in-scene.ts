/** Issues that were raised on plans, where they are in the models that are open. */
import { listIssues } from '@kindred/contract/issues/issues';
import { listPlanLinks } from '@kindred/contract/plan/plan-links';
import { toModel } from '@kindred/core/plan/plan-map';
import { CUT_HEIGHT } from '@kindred/core/plan/storey-plan';
import { useQuery } from '@pinia/colada';
import { computed } from 'vue';
import { call } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';
import type { ScenePin } from '../scene/scene-pins.ts';

/** `open`: versions of the models in the scene. */
export function usePinsInScene(open: () => readonly string[]) {
  const project = useProject();
  const { data: links } = useQuery({
    key: () => [project.projectId, 'container', 'plan links', 'all'],
    query: () => call(listPlanLinks, { params: project.params }),
    enabled: () => project.may('scene', 'see'),
  });
  const { data: issues } = useQuery({
    key: () => [project.projectId, 'issue', 'on plans'],
    query: () => call(listIssues, { params: project.params, query: { limit: 200 } }),
    enabled: () => project.may('issues', 'see') && (links.value?.length ?? 0) > 0,
  });
  return computed((): ScenePin[] => {
    const plans = new Map(
      (links.value ?? [])
        .filter(({ modelVersionId }) => open().includes(modelVersionId))
        .map((link) => [`${link.versionId}/${link.page}`, link]),
    );
    return (issues.value?.items ?? []).flatMap(({ id, number, place }): ScenePin[] => {
      const link = place && plans.get(`${place.versionId}/${place.page}`);
      if (!link) return [];
      const [x, y] = toModel(link.map, [place.x, place.y]);
      return [{ id, number, at: [x, y, link.elevation + CUT_HEIGHT] }];
    });
  });
}
