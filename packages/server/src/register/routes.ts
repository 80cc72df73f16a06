import * as contract from '@kindred/contract/register/register';
import * as folderContract from '@kindred/contract/register/folders';
import type { Response } from 'express';
import { pipeline } from 'node:stream/promises';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import * as folders from './folders.ts';
import * as register from './service.ts';

const PRODUCT_TYPES = {
  thumbnail: 'image/png',
  scene: 'application/octet-stream',
  elements: 'application/json',
} as const;

/** Streams a blob; content never changes under its hash, so browsers may keep it. */
export async function sendBlob(
  platform: Platform,
  response: Response,
  sha256: string,
  mediaType: string,
): Promise<void> {
  response.setHeader('Content-Type', mediaType);
  response.setHeader('ETag', `"${sha256}"`);
  response.setHeader('Cache-Control', 'private, max-age=31536000, immutable');
  if (response.req.headers['if-none-match'] === `"${sha256}"`) {
    response.status(304).end();
    return;
  }
  await pipeline(platform.store.read(sha256), response);
}

export function registerRoutes(platform: Platform): Route[] {
  return [
    route(folderContract.listFolders, ({ actor }) => folders.listFolders(platform.db, actor)),
    route(folderContract.addFolder, ({ actor, body }) => folders.addFolder(platform, actor, body)),
    route(folderContract.changeFolder, ({ actor, params, body }) =>
      folders.changeFolder(platform, actor, params.folderId!, body),
    ),
    route(folderContract.removeFolder, ({ actor, params }) => folders.removeFolder(platform, actor, params.folderId!)),
    route(folderContract.listFolderPermissions, ({ actor, params }) =>
      folders.listFolderPermissions(platform.db, actor, params.folderId!),
    ),
    route(folderContract.changeFolderPermissions, ({ actor, params, body }) =>
      folders.changeFolderPermissions(platform, actor, params.folderId!, body),
    ),
    route(contract.listContainers, ({ actor, query }) => register.listContainers(platform, actor, query)),
    route(contract.showContainer, ({ actor, params }) => register.showContainer(platform, actor, params.containerId!)),
    route(contract.deliver, ({ actor, body }) => register.deliver(platform, actor, body)),
    route(contract.lookUpCodes, ({ actor, body }) => register.lookUpCodes(platform, actor, body.codes)),
    route(contract.repairName, ({ actor, params, body }) =>
      register.repairName(platform, actor, params.containerId!, body.code),
    ),
    route(contract.moveState, ({ actor, params, body }) =>
      register.moveState(platform, actor, params.containerId!, body.action, body.reason),
    ),
    route(contract.describeContainer, ({ actor, params, body }) =>
      register.describeContainer(platform, actor, params.containerId!, body),
    ),
    route(contract.prepareAgain, ({ actor, params }) => register.prepareAgain(platform, actor, params.versionId!)),
    route(contract.downloadVersion, async ({ actor, params, response }) => {
      const version = await register.visibleVersion(platform.db, actor, params.versionId!);
      response.attachment(version.fileName);
      response.setHeader('Content-Length', version.size);
      await sendBlob(platform, response, version.sha256, version.mediaType);
      return null;
    }),
    route(contract.downloadProduct, async ({ actor, params, response }) => {
      const version = await register.visibleVersion(platform.db, actor, params.versionId!);
      await sendBlob(
        platform,
        response,
        await register.productOf(platform.db, version.id, params.product),
        PRODUCT_TYPES[params.product],
      );
      return null;
    }),
  ];
}
