import * as contract from '@kindred/contract/insight/insight';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import { exportAuditTrail, listAuditTrail } from './audit.ts';
import { showDesk } from './desk.ts';

export const insightRoutes = (platform: Platform): Route[] => [
  route(contract.showDesk, ({ actor }) => showDesk(platform, actor)),
  route(contract.listAuditTrail, ({ actor, query }) => listAuditTrail(platform, actor, query)),
  route(contract.exportAuditTrail, async ({ actor, query, response }) => {
    await exportAuditTrail(platform, actor, query, response);
    return null;
  }),
];
