import type { Container } from '@kindred/contract/register/register';
import type { RouteLocationRaw } from 'vue-router';

/** Where opening a container leads: drawings to their sheets, models into the scene, the rest to their page. */
export function openingOf(
  { id, kind, preparation, versionId }: Pick<Container, 'id' | 'kind' | 'preparation' | 'versionId'>,
  projectId: string,
): RouteLocationRaw {
  if (preparation === 'ready' && (kind === 'drawing' || kind === 'image'))
    return { name: 'sheets', params: { projectId, containerId: id } };
  if (preparation === 'ready' && kind === 'model')
    return { name: 'scene', params: { projectId }, query: { models: versionId } };
  return { name: 'container', params: { projectId, containerId: id } };
}
