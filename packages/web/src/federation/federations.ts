/** The federations of the project, and one of them with its models. */
import { listFederations, showFederation } from '@kindred/contract/federation/federations';
import { useQuery } from '@pinia/colada';
import { call } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';

export function useFederations() {
  const project = useProject();
  return useQuery({
    key: () => [project.projectId, 'federation', 'list'],
    query: () => call(listFederations, { params: project.params }),
  });
}

/** `id`: none where nothing is chosen. Its models come and go with the register. */
export function useFederation(id: () => string | undefined) {
  const project = useProject();
  return useQuery({
    key: () => [project.projectId, 'container', 'federation', id() ?? ''],
    query: () => call(showFederation, { params: { ...project.params, federationId: id()! } }),
    enabled: () => id() !== undefined,
  });
}
