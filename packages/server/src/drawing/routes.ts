import * as contract from '@kindred/contract/drawing/drawing';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import { confirmSheets, listSheetRegister, listSheets } from './service.ts';

export const drawingRoutes = (platform: Platform): Route[] => [
  route(contract.listSheets, ({ actor, params }) => listSheets(platform, actor, params.versionId!)),
  route(contract.confirmSheets, ({ actor, params, body }) =>
    confirmSheets(platform, actor, params.versionId!, body.sheets),
  ),
  route(contract.listSheetRegister, ({ actor, query }) => listSheetRegister(platform.db, actor, query)),
];
