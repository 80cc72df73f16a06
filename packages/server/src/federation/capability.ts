import { ilike, sql } from 'drizzle-orm';
import type { Capability } from '../platform/capability.ts';
import { containing } from '../platform/like.ts';
import { drawFederationsWith, pictureJobs } from './pictures.ts';
import { federationRoutes } from './routes.ts';
import { federations } from './schema.ts';

export const federation: Capability = {
  name: 'federation',
  routes: federationRoutes,
  work: pictureJobs,
  blobs: [sql`select sha256 from federation_pictures where sha256 is not null`],
  prepared: async (unit, { kind, containerId }) => {
    if (kind === 'model') await drawFederationsWith(unit, [containerId]);
  },
  shared: (unit, versions) =>
    drawFederationsWith(
      unit,
      versions.flatMap(({ kind, containerId }) => (kind === 'model' ? [containerId] : [])),
    ),
  placed: (unit, containerId) => drawFederationsWith(unit, [containerId]),
  subjects: [
    {
      type: 'federation',
      right: { kind: 'scene', action: 'see' },
      from: sql`${federations}`,
      id: sql`${federations.id}`,
      title: sql`${federations.name}`,
      note: sql`'Federation'`,
      path: sql`'federations?federation=' || ${federations.id}`,
      at: sql`${federations.at}`,
      inProject: (projectId) => sql`${federations.projectId} = ${projectId}`,
      visibleTo: () => undefined,
      search: (words) => ({ where: ilike(federations.name, containing(words)) }),
    },
  ],
};
