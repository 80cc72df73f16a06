import * as contract from '@kindred/contract/markup/markup';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import { startMarkupExport } from './export.ts';
import * as markup from './service.ts';

export const markupRoutes = (platform: Platform): Route[] => [
  route(contract.listMarkups, ({ actor, params }) => markup.listMarkups(platform, actor, params.versionId!)),
  route(contract.addMarkup, ({ actor, params, body }) => markup.addMarkup(platform, actor, params.versionId!, body)),
  route(contract.changeMarkup, ({ actor, params, body }) =>
    markup.changeMarkup(platform, actor, params.markupId!, body),
  ),
  route(contract.deleteMarkup, ({ actor, params }) => markup.deleteMarkup(platform, actor, params.markupId!)),
  route(contract.startMarkupExport, ({ actor, params, body }) =>
    startMarkupExport(platform, actor, params.versionId!, body),
  ),
  route(contract.publishMarkups, ({ actor, params, body }) =>
    markup.publishMarkups(platform, actor, params.versionId!, body.markupIds),
  ),
];
