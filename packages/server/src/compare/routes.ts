import * as contract from '@kindred/contract/compare/compare';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import { addRequests, changeRequest, collectRequests, judgeChange, removeRequest, showBrief } from './brief.ts';
import { listElementHistory } from './element-history.ts';
import {
  askComparison,
  cancelComparison,
  listComparisons,
  listModelChanges,
  listSheetChanges,
  showComparison,
} from './service.ts';
import { startComparisonExport } from './export.ts';

export const compareRoutes = (platform: Platform): Route[] => [
  route(contract.listComparisons, ({ actor, query }) => listComparisons(platform, actor, query)),
  route(contract.askComparison, ({ actor, body }) => askComparison(platform, actor, body)),
  route(contract.showComparison, ({ actor, params }) => showComparison(platform, actor, params.comparisonId!)),
  route(contract.cancelComparison, ({ actor, params }) => cancelComparison(platform, actor, params.comparisonId!)),
  route(contract.listSheetChanges, ({ actor, params }) =>
    listSheetChanges(platform, actor, params.comparisonId!, Number(params.position)),
  ),
  route(contract.listModelChanges, ({ actor, params, query }) =>
    listModelChanges(platform, actor, params.comparisonId!, query),
  ),
  route(contract.listElementHistory, ({ actor, params, query }) =>
    listElementHistory(platform, actor, params.versionId!, query.globalId),
  ),
  route(contract.startComparisonExport, ({ actor, params, body }) =>
    startComparisonExport(platform, actor, params.comparisonId!, body),
  ),
  route(contract.showBrief, ({ actor, params }) => showBrief(platform, actor, params.comparisonId!)),
  route(contract.addRequests, ({ actor, params, body }) => addRequests(platform, actor, params.versionId!, body)),
  route(contract.collectRequests, ({ actor, params }) => collectRequests(platform, actor, params.versionId!)),
  route(contract.changeRequest, ({ actor, params, body }) => changeRequest(platform, actor, params.requestId!, body)),
  route(contract.removeRequest, ({ actor, params }) => removeRequest(platform, actor, params.requestId!)),
  route(contract.judgeChange, ({ actor, params, body }) => judgeChange(platform, actor, params.comparisonId!, body)),
];
