import * as contract from '@kindred/contract/scene/scene';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import { sendBlob } from '../platform/send-blob.ts';
import * as scene from './service.ts';

export const sceneRoutes = (platform: Platform): Route[] => [
  route(contract.listViewpoints, ({ actor, query }) => scene.listViewpoints(platform, actor, query)),
  route(contract.addViewpoint, ({ actor, body }) => scene.addViewpoint(platform, actor, body)),
  route(contract.showViewpoint, ({ actor, params }) => scene.showViewpoint(platform, actor, params.viewpointId!)),
  route(contract.downloadViewpointPicture, async ({ actor, params, response }) => {
    await sendBlob(platform, response, await scene.pictureOf(platform, actor, params.viewpointId!), 'image/png');
    return null;
  }),
  route(contract.showElementProperties, ({ actor, params }) =>
    scene.showElementProperties(platform, actor, params.versionId!, Number(params.row)),
  ),
];
