/** The model behind the sheet that is open: what stands at a place of it, and what was looked at or asked there. */
import { listIssues } from '@kindred/contract/issues/issues';
import { listPlanLinks, unlinkPlan } from '@kindred/contract/plan/plan-links';
import { listViewpoints } from '@kindred/contract/scene/scene';
import { metresPerPointOf, toModel, toPlan, type PlanMap, type PlanPoint } from '@kindred/core/plan/plan-map';
import { elementAt, type PlacedElement } from '@kindred/core/plan/storey-plan';
import { useQuery } from '@pinia/colada';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { elementsOfStorey, usePlanModel } from './plan-model.ts';

/** Where no storey is above, what is so far over the floor belongs to it, metres; and so far below it. */
const [TALLEST, BELOW] = [5, 0.5];

export interface PlanPin {
  /** Of the issue, or of the viewpoint where none was raised at it. */
  id: string;
  kind: 'issue' | 'viewpoint';
  number: number;
  x: number;
  y: number;
}

export function usePlanOfSheet(containerId: () => string, page: () => number) {
  const project = useProject();
  const mayLook = (): boolean => project.may('scene', 'see');
  const { data: links, refetch } = useQuery({
    key: () => [project.projectId, 'container', 'plan links', containerId()],
    query: () => call(listPlanLinks, { params: project.params, query: { containerId: containerId() } }),
    enabled: mayLook,
  });
  const link = computed(() => links.value?.find((one) => one.page === page()));

  // What stands at a place
  const asked = shallowRef<{ at: PlanPoint; near: number }>();
  const { model, loading, storeys } = usePlanModel(
    () => project.projectId,
    () => (asked.value ? link.value?.modelVersionId : undefined),
  );
  watch([containerId, page], () => (asked.value = undefined));
  const elements = computed(() =>
    model.value
      ? elementsOfStorey(
          model.value,
          storeys.value.find(({ name }) => name === link.value?.storey),
        )
      : [],
  );
  const row = computed(() => {
    if (!model.value || !link.value || !asked.value) return undefined;
    const { map, elevation } = link.value;
    const { at, near } = asked.value;
    return elementAt(model.value.scene, elements.value, toModel(map, at), elevation, near * metresPerPointOf(map));
  });

  // What was looked at
  const { data: viewpoints } = useQuery({
    key: () => [project.projectId, 'viewpoint', 'on plans'],
    query: () => call(listViewpoints, { params: project.params, query: { limit: 200 } }),
    enabled: () => mayLook() && link.value !== undefined,
  });
  const { data: issues } = useQuery({
    key: () => [project.projectId, 'issue', 'on plans'],
    query: () => call(listIssues, { params: project.params, query: { limit: 200 } }),
    enabled: () => link.value !== undefined && project.may('issues', 'see'),
  });
  const pins = computed((): PlanPin[] => {
    const at = link.value;
    if (!at) return [];
    const [low, high] = [at.elevation - BELOW, (at.top ?? at.elevation + TALLEST) - BELOW];
    const raised = new Map(issues.value?.items.map((issue) => [issue.viewpointId, issue]));
    return (viewpoints.value?.items ?? []).flatMap(({ id, camera }, i): PlanPin[] => {
      const [x, y, z] = camera.target;
      if (z < low || z >= high) return [];
      const [px, py] = toPlan(at.map, [x, y]);
      const issue = raised.get(id);
      return [
        issue
          ? { id: issue.id, kind: 'issue', number: issue.number, x: px, y: py }
          : { id, kind: 'viewpoint', number: viewpoints.value!.items.length - i, x: px, y: py },
      ];
    });
  });

  // Linking
  const linking = ref(false);
  const asksPoint = ref(false);
  const overlay = shallowRef<{ elements: PlacedElement[]; map: PlanMap }>();
  const clicked = shallowRef<PlanPoint>();
  watch(linking, (open) => {
    if (!open) overlay.value = clicked.value = undefined;
    asksPoint.value = false;
  });
  return {
    link,
    /** `near`: points of the page within which a thing is meant. */
    ask: (at: PlanPoint, near: number): void => void (asked.value = { at, near }),
    forget: (): void => void (asked.value = undefined),
    isAsked: computed(() => asked.value !== undefined && link.value !== undefined),
    ...{ model, row, loading, pins, linking, asksPoint, overlay, clicked },
    async linked(): Promise<void> {
      await refetch();
      linking.value = false;
    },
    unlink: (): Promise<boolean> =>
      attempt(async () => {
        await call(unlinkPlan, { params: { ...project.params, linkId: link.value!.id } });
        await refetch();
      }),
  };
}
