import * as contract from '@kindred/contract/drawing/drawing';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import { sendVectors } from './vectors.ts';
import { listRecognisedWords } from './recognition.ts';
import { forgetTitleBlock, listTaughtTitleBlocks } from './teaching.ts';
import { findWords } from './words.ts';
import { confirmSheets, listSheetRegister, listSheets } from './service.ts';

export const drawingRoutes = (platform: Platform): Route[] => [
  route(contract.listSheets, ({ actor, params }) => listSheets(platform, actor, params.versionId!)),
  route(contract.confirmSheets, ({ actor, params, body }) =>
    confirmSheets(platform, actor, params.versionId!, body.sheets),
  ),
  route(contract.showVectors, ({ actor, params, response }) =>
    sendVectors(platform, actor, params.versionId!, Number(params.page), response),
  ),
  route(contract.listRecognisedWords, ({ actor, params }) =>
    listRecognisedWords(platform, actor, params.versionId!, Number(params.page)),
  ),
  route(contract.findWords, ({ actor, query }) => findWords(platform, actor, query)),
  route(contract.listTaughtTitleBlocks, ({ actor }) => listTaughtTitleBlocks(platform, actor)),
  route(contract.forgetTitleBlock, ({ actor, params }) => forgetTitleBlock(platform, actor, params.layoutId!)),
  route(contract.listSheetRegister, ({ actor, query }) => listSheetRegister(platform.db, actor, query)),
];
