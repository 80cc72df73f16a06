import { sql } from 'drizzle-orm';
import type { Capability } from '../platform/capability.ts';
import { sceneRoutes } from './routes.ts';
import { viewpoints } from './schema.ts';
import { viewpointVisibleTo } from './visibility.ts';

export const scene: Capability = {
  name: 'scene',
  routes: sceneRoutes,
  blobs: [sql`select picture_sha256 as sha256 from viewpoints`],
  subjects: [
    {
      type: 'viewpoint',
      right: { kind: 'scene', action: 'see' },
      from: sql`${viewpoints}`,
      id: sql`${viewpoints.id}`,
      title: sql`${viewpoints.name}`,
      note: sql`'Viewpoint'`,
      path: sql`'scene?viewpoint=' || ${viewpoints.id}`,
      at: sql`${viewpoints.createdAt}`,
      inProject: (projectId) => sql`${viewpoints.projectId} = ${projectId}`,
      visibleTo: viewpointVisibleTo,
      links: [
        {
          to: 'version',
          touches: (ids) => sql`${viewpoints.versionIds} && ${ids}`,
          idsOf: (id) => sql`select unnest(version_ids) from viewpoints where id = ${id}`,
        },
      ],
    },
  ],
};
