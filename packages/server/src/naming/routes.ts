import * as contract from '@kindred/contract/naming/naming';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import * as naming from './service.ts';

export function namingRoutes(platform: Platform): Route[] {
  return [
    route(contract.showNaming, ({ actor }) => naming.showNaming(platform.db, actor.projectId)),
    route(contract.addNamingValue, ({ actor, params, body }) =>
      naming.addNamingValue(platform, actor, params.conventionId!, body),
    ),
    route(contract.addConvention, ({ actor, body }) => naming.addConvention(platform, actor, body.definition)),
    route(contract.listConventionEditions, ({ actor, params }) =>
      naming.listConventionEditions(platform.db, actor.projectId, params.conventionId!),
    ),
    route(contract.changeSchemes, ({ actor, body }) => naming.changeSchemes(platform, actor, body)),
  ];
}
