import * as importing from '@kindred/contract/markup/import';
import * as contract from '@kindred/contract/markup/markup';
import * as stampContract from '@kindred/contract/markup/stamps';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import { commentMarkup } from './comments.ts';
import { startMarkupExport } from './export.ts';
import { showMarkupImport, startMarkupImport, takeMarkups } from './import.ts';
import { sendMarkupPicture, sendStampPicture } from './pictures.ts';
import * as markup from './service.ts';
import { startMarkupSetExport } from './set-export.ts';
import * as stamps from './stamps.ts';
import { showMarkup } from './threads.ts';

export const markupRoutes = (platform: Platform): Route[] => [
  route(contract.listMarkups, ({ actor, params }) => markup.listMarkups(platform, actor, params.versionId!)),
  route(contract.addMarkup, ({ actor, params, body }) => markup.addMarkup(platform, actor, params.versionId!, body)),
  route(contract.showMarkup, ({ actor, params }) => showMarkup(platform, actor, params.markupId!)),
  route(contract.showMarkupPicture, ({ actor, params, response }) =>
    sendMarkupPicture(platform, actor, params.markupId!, response),
  ),
  route(contract.changeMarkup, ({ actor, params, body }) =>
    markup.changeMarkup(platform, actor, params.markupId!, body),
  ),
  route(contract.commentMarkup, ({ actor, params, body }) => commentMarkup(platform, actor, params.markupId!, body)),
  route(contract.deleteMarkup, ({ actor, params }) => markup.deleteMarkup(platform, actor, params.markupId!)),
  route(contract.startMarkupExport, ({ actor, params, body }) =>
    startMarkupExport(platform, actor, params.versionId!, body),
  ),
  route(contract.startMarkupSetExport, ({ actor, body }) => startMarkupSetExport(platform, actor, body)),
  route(contract.publishMarkups, ({ actor, params, body }) =>
    markup.publishMarkups(platform, actor, params.versionId!, body.markupIds),
  ),
  route(importing.startMarkupImport, ({ actor, params, body }) =>
    startMarkupImport(platform, actor, params.versionId!, body.uploadId),
  ),
  route(importing.showMarkupImport, ({ actor, params }) => showMarkupImport(platform, actor, params.jobId!)),
  route(importing.takeMarkups, ({ actor, params, body }) => takeMarkups(platform, actor, params.jobId!, body)),
  route(stampContract.listStamps, ({ actor }) => stamps.listStamps(platform, actor)),
  route(stampContract.addStamp, ({ actor, body }) => stamps.addStamp(platform, actor, body)),
  route(stampContract.changeStamp, ({ actor, params, body }) =>
    stamps.changeStamp(platform, actor, params.stampId!, body),
  ),
  route(stampContract.removeStamp, ({ actor, params }) => stamps.removeStamp(platform, actor, params.stampId!)),
  route(stampContract.showStampPicture, ({ actor, params, response }) =>
    sendStampPicture(platform, actor, params.stampId!, response),
  ),
];
