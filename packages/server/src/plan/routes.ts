import * as contract from '@kindred/contract/plan/plan-links';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import { linkPlan, listPlanLinks, unlinkPlan } from './service.ts';

export const planRoutes = (platform: Platform): Route[] => [
  route(contract.listPlanLinks, ({ actor, query }) => listPlanLinks(platform, actor, query)),
  route(contract.linkPlan, ({ actor, body }) => linkPlan(platform, actor, body)),
  route(contract.unlinkPlan, ({ actor, params }) => unlinkPlan(platform, actor, params.linkId!)),
];
