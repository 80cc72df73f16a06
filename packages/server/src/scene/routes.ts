import * as filters from '@kindred/contract/scene/element-filters';
import * as placings from '@kindred/contract/scene/placings';
import * as contract from '@kindred/contract/scene/scene';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import { sendBlob } from '../platform/send-blob.ts';
import { listElementFilters, removeElementFilter, shareElementFilter } from './element-filters.ts';
import { placeModel, showPlacing } from './placings.ts';
import * as scene from './service.ts';

export const sceneRoutes = (platform: Platform): Route[] => [
  route(contract.listViewpoints, ({ actor, query }) => scene.listViewpoints(platform, actor, query)),
  route(contract.addViewpoint, ({ actor, body }) => scene.addViewpoint(platform, actor, body)),
  route(contract.listViewpointFolders, ({ actor }) => scene.listViewpointFolders(platform, actor)),
  route(contract.arrangeViewpoints, ({ actor, body }) => scene.arrangeViewpoints(platform, actor, body)),
  route(contract.renameViewpoint, ({ actor, params, body }) =>
    scene.renameViewpoint(platform, actor, params.viewpointId!, body.name),
  ),
  route(contract.removeViewpoint, ({ actor, params }) => scene.removeViewpoint(platform, actor, params.viewpointId!)),
  route(contract.showViewpoint, ({ actor, params }) => scene.showViewpoint(platform, actor, params.viewpointId!)),
  route(contract.downloadViewpointPicture, async ({ actor, params, response }) => {
    await sendBlob(platform, response, await scene.pictureOf(platform, actor, params.viewpointId!), 'image/png');
    return null;
  }),
  route(placings.showPlacing, ({ actor, params }) => showPlacing(platform, actor, params.versionId!)),
  route(placings.placeModel, ({ actor, params, body }) =>
    placeModel(platform, actor, params.containerId!, body.placing),
  ),
  route(filters.listElementFilters, ({ actor }) => listElementFilters(platform.db, actor)),
  route(filters.shareElementFilter, ({ actor, body }) => shareElementFilter(platform, actor, body)),
  route(filters.removeElementFilter, ({ actor, params }) => removeElementFilter(platform, actor, params.filterId!)),
  route(contract.showElementProperties, ({ actor, params }) =>
    scene.showElementProperties(platform, actor, params.versionId!, Number(params.row)),
  ),
];
