import * as contract from '@kindred/contract/federation/federations';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import { listLineUps, removeLineUp, saveLineUp } from './line-ups.ts';
import { sendBlob } from '../platform/send-blob.ts';
import { listFederationPictures, pictureOf } from './pictures.ts';
import { listModelPlaces } from './places.ts';
import {
  addFederation,
  changeFederation,
  listFederations,
  pinModel,
  removeFederation,
  showFederation,
} from './service.ts';

export const federationRoutes = (platform: Platform): Route[] => [
  route(contract.listFederations, ({ actor }) => listFederations(platform, actor)),
  route(contract.addFederation, ({ actor, body }) => addFederation(platform, actor, body)),
  route(contract.showFederation, ({ actor, params }) => showFederation(platform, actor, params.federationId!)),
  route(contract.changeFederation, ({ actor, params, body }) =>
    changeFederation(platform, actor, params.federationId!, body),
  ),
  route(contract.removeFederation, ({ actor, params }) => removeFederation(platform, actor, params.federationId!)),
  route(contract.pinModel, ({ actor, params, body }) =>
    pinModel(platform, actor, { federationId: params.federationId!, containerId: params.containerId! }, body.versionId),
  ),
  route(contract.listFederationPictures, ({ actor }) => listFederationPictures(platform, actor)),
  route(contract.downloadFederationPicture, async ({ actor, params, response }) => {
    await sendBlob(platform, response, await pictureOf(platform, actor, params.federationId!), 'image/png');
    return null;
  }),
  route(contract.listModelPlaces, ({ actor, params }) => listModelPlaces(platform, actor, params.federationId!)),
  route(contract.listLineUps, ({ actor }) => listLineUps(platform, actor)),
  route(contract.saveLineUp, ({ actor, body }) => saveLineUp(platform, actor, body)),
  route(contract.removeLineUp, ({ actor, params }) => removeLineUp(platform, actor, params.lineUpId!)),
];
