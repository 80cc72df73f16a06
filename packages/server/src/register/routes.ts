import * as exchangeContract from '@kindred/contract/register/exchange';
import * as folderContract from '@kindred/contract/register/folders';
import * as binContract from '@kindred/contract/register/bin';
import * as contract from '@kindred/contract/register/register';
import * as shareSetContract from '@kindred/contract/register/share-sets';
import * as namingContract from '@kindred/contract/naming/naming';
import { checkAccess as checkAccessOperation } from '@kindred/contract/people/people';
import * as uploadContract from '@kindred/contract/register/uploads';
import * as viewContract from '@kindred/contract/register/views';
import type { DeliverySource } from '@kindred/core/register/states';
import type { Request } from 'express';
import * as naming from '../naming/service.ts';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import * as bin from './bin.ts';
import { deliver, lookUpCodes } from './deliveries.ts';
import { discardIntake, editContainers, repairNames } from './editing.ts';
import { groupContainers, listContainers, lookUpVersions } from './entries.ts';
import * as exchange from './exchange.ts';
import { exportContainers, startRegisterExport } from './export.ts';
import * as files from './files.ts';
import * as folders from './folders.ts';
import * as versions from './versions.ts';
import * as states from './states.ts';
import { changeCode, moveContainers } from './placing.ts';
import * as shareSets from './share-sets.ts';
import * as views from './views.ts';
import { showRoom } from './quota.ts';
import { discardUpload, listUploads } from './waiting-uploads.ts';
import { previewConvention, removeConvention } from './conventions.ts';
import { checkAccess } from './check-access.ts';
import { renewNameFields } from './name-fields.ts';

/** Browsers carry a session; what carries a token is the agent of an author's folder, or some program. */
function sourceOf({ headers }: Request): DeliverySource {
  if (!headers.authorization) return 'browser';
  return headers['user-agent']?.startsWith('kindred-agent') ? 'agent' : 'program';
}

export function registerRoutes(platform: Platform): Route[] {
  const { db } = platform;
  return [
    route(contract.listContainers, ({ actor, query }) => listContainers(platform, actor, query)),
    route(folderContract.listFolders, ({ actor }) => folders.listFolders(db, actor)),
    route(folderContract.addFolder, ({ actor, body }) => folders.addFolder(platform, actor, body)),
    route(folderContract.changeFolder, ({ actor, params, body }) =>
      folders.changeFolder(platform, actor, params.folderId!, body),
    ),
    route(folderContract.removeFolder, ({ actor, params }) => folders.removeFolder(platform, actor, params.folderId!)),
    route(folderContract.listFolderPermissions, ({ actor, params }) =>
      folders.listFolderPermissions(db, actor, params.folderId!),
    ),
    route(folderContract.changeFolderPermissions, ({ actor, params, body }) =>
      folders.changeFolderPermissions(platform, actor, params.folderId!, body),
    ),
    route(uploadContract.showRoom, ({ actor }) => showRoom(platform, actor.projectId)),
    route(contract.groupContainers, ({ actor, query }) => groupContainers(platform, actor, query)),
    route(contract.showContainer, ({ actor, params }) => versions.showContainer(platform, actor, params.containerId!)),
    route(contract.listCurrentVersions, ({ actor, query }) =>
      versions.listCurrentVersions(db, actor, query.versionIds.split(',')),
    ),
    route(contract.deliver, ({ actor, body, request }) => deliver(platform, actor, body, sourceOf(request))),
    route(uploadContract.listUploads, ({ actor, query }) => listUploads(platform, actor, query)),
    route(uploadContract.discardUpload, ({ actor, params }) => discardUpload(platform, actor, params.uploadId)),
    route(contract.lookUpCodes, ({ actor, body }) => lookUpCodes(platform, actor, body.codes)),
    route(contract.lookUpVersions, ({ actor, body }) => lookUpVersions(platform.db, actor, body.versionIds)),
    route(contract.repairNames, ({ actor, body }) => repairNames(platform, actor, body.repairs)),
    route(contract.discardIntake, ({ actor, params }) => discardIntake(platform, actor, params.containerId!)),
    route(binContract.moveContainers, ({ actor, body }) => moveContainers(platform, actor, body)),
    route(binContract.changeCode, ({ actor, params, body }) => changeCode(platform, actor, params.containerId!, body)),
    route(binContract.removeContainers, ({ actor, body }) => bin.removeContainers(platform, actor, body)),
    route(binContract.listBin, ({ actor, query }) => bin.listBin(platform, actor, query)),
    route(binContract.restoreContainers, ({ actor, body }) => bin.restoreContainers(platform, actor, body)),
    route(contract.moveStates, ({ actor, body }) => states.moveStates(platform, actor, body)),
    route(contract.editContainers, ({ actor, body }) => editContainers(platform, actor, body.edits)),
    route(contract.restoreVersion, ({ actor, params, body }) =>
      versions.restoreVersion(platform, actor, params.containerId!, body.number),
    ),
    route(contract.decideVersion, ({ actor, params, body }) =>
      versions.decideVersion(platform, actor, params.containerId!, body.number, body.decision),
    ),
    route(contract.reserveContainers, ({ actor, body }) =>
      versions.reserveContainers(platform, actor, body.containerIds, body.reserve),
    ),
    route(contract.showGates, ({ actor }) => states.showGates(db, actor.projectId)),
    route(contract.changeGates, ({ actor, body }) => states.changeGates(platform, actor, body)),
    route(contract.prepareAgain, ({ actor, params }) => versions.prepareAgain(platform, actor, params.versionId!)),
    route(contract.exportContainers, async ({ actor, query, response }) => {
      await exportContainers(platform, actor, query, response);
      return null;
    }),
    route(contract.startRegisterExport, ({ actor, query }) => startRegisterExport(platform, actor, query)),
    route(contract.downloadVersions, async ({ actor, query, response }) => {
      await files.downloadVersions(platform, actor, query.versionIds.split(','), response);
      return null;
    }),
    route(contract.downloadVersion, async ({ actor, params, response }) => {
      await files.downloadVersion(platform, actor, params.versionId!, response);
      return null;
    }),
    route(contract.downloadNative, async ({ actor, params, response }) => {
      await files.downloadNative(platform, actor, params.versionId!, params.nativeId!, response);
      return null;
    }),
    route(contract.downloadProduct, async ({ actor, params, query, response }) => {
      await files.downloadProduct(platform, actor, params.versionId!, { ...params, ...query }, response);
      return null;
    }),
    route(checkAccessOperation, ({ actor, params, query }) => checkAccess(platform, actor, params.memberId!, query)),
    route(namingContract.changeConvention, ({ actor, params, body }) =>
      naming.changeConvention(platform, actor, params.conventionId!, body, (db) =>
        renewNameFields(db, actor.projectId),
      ),
    ),
    route(namingContract.removeConvention, ({ actor, params }) =>
      removeConvention(platform, actor, params.conventionId!),
    ),
    route(namingContract.previewConvention, ({ actor, params, body }) =>
      previewConvention(platform, actor, params.conventionId!, body.definition),
    ),
    route(viewContract.listSavedViews, ({ actor, query }) => views.listSavedViews(db, actor, query.list)),
    route(viewContract.addSavedView, ({ actor, body }) => views.addSavedView(platform, actor, body)),
    route(viewContract.changeSavedView, ({ actor, params, body }) =>
      views.changeSavedView(platform, actor, params.viewId!, body),
    ),
    route(viewContract.removeSavedView, ({ actor, params }) => views.removeSavedView(platform, actor, params.viewId!)),
    route(viewContract.ringSavedView, ({ actor, params, body }) =>
      views.ringSavedView(platform, actor, params.viewId!, body.on),
    ),
    route(shareSetContract.listShareSets, ({ actor }) => shareSets.listShareSets(db, actor)),
    route(shareSetContract.addShareSet, ({ actor, body }) => shareSets.addShareSet(platform, actor, body)),
    route(shareSetContract.changeShareSet, ({ actor, params, body }) =>
      shareSets.changeShareSet(platform, actor, params.shareSetId!, body),
    ),
    route(shareSetContract.removeShareSet, ({ actor, params }) =>
      shareSets.removeShareSet(platform, actor, params.shareSetId!),
    ),
    route(exchangeContract.listDeliveries, ({ actor, query }) =>
      exchange.listDeliveries(db, actor, query.from, query.to),
    ),
    route(exchangeContract.showExchangeMatrix, ({ actor }) => exchange.showExchangeMatrix(db, actor)),
    route(exchangeContract.listDeliveryWeeks, ({ actor }) => exchange.listDeliveryWeeks(db, actor)),
    route(exchangeContract.listUsed, ({ actor, params }) =>
      exchange.listUsed(db, actor, params.provider!, params.user!),
    ),
  ];
}
