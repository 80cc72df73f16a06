import * as contract from '@kindred/contract/insight/insight';
import { changeMailChoices, showMailChoices } from '../identity/mail-choices.ts';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import { exportAuditTrail, listAuditTrail } from './audit.ts';
import { showDesk } from './desk.ts';
import { listDeliveryWeeks } from './weeks.ts';

export const insightRoutes = (platform: Platform): Route[] => [
  route(contract.showDesk, ({ actor }) => showDesk(platform.db, actor)),
  route(contract.showMailChoices, ({ actor }) => showMailChoices(platform.db, actor.id)),
  route(contract.changeMailChoices, ({ actor, body }) => changeMailChoices(platform.db, actor.id, body)),
  route(contract.listAuditTrail, ({ actor, query }) => listAuditTrail(platform, actor, query)),
  route(contract.exportAuditTrail, async ({ actor, query, response }) => {
    await exportAuditTrail(platform, actor, query, response);
    return null;
  }),
  route(contract.listDeliveryWeeks, ({ actor }) => listDeliveryWeeks(platform.db, actor)),
];
