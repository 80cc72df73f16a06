import * as contract from '@kindred/contract/people/people';
import { route, type Route } from '../platform/http.ts';
import type { Platform } from '../platform/services.ts';
import { projectNamed } from '../portfolio/service.ts';
import * as people from './service.ts';

export function peopleRoutes(platform: Platform): Route[] {
  return [
    route(contract.listPeople, ({ actor }) => people.listPeople(platform, actor.projectId)),
    route(contract.addPerson, async ({ actor, body }) =>
      people.addPerson(platform, actor, body, (await projectNamed(platform.db, actor.projectId)).name),
    ),
    route(contract.changePerson, ({ actor, params, body }) =>
      people.changePerson(platform, actor, params.memberId!, body),
    ),
    route(contract.addTeam, ({ actor, body }) => people.addTeam(platform, actor, body)),
  ];
}
