import * as contract from '@kindred/contract/naming/naming';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import * as naming from './service.ts';

export function namingRoutes(platform: Platform): Route[] {
  return [
    route(contract.showNaming, ({ actor }) => naming.showNaming(platform.db, actor.projectId)),
    route(contract.addNamingValue, ({ actor, body }) => naming.addNamingValue(platform, actor, body)),
  ];
}
