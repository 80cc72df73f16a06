import * as contract from '@kindred/contract/people/people';
import { route, type Route } from '../platform/http.ts';
import { daily } from '../platform/rate-limit.ts';
import type { Platform } from '../platform/services.ts';
import { projectNamed } from '../portfolio/service.ts';
import { changeParty, correctPerson, removeParty } from './correcting.ts';
import { removePerson } from './leaving.ts';
import { removeTeam } from './removing-teams.ts';
import { listDemoPeople } from './demo-people.ts';
import { changeRoles } from './roles.ts';
import * as people from './service.ts';

export function peopleRoutes(platform: Platform): Route[] {
  const added = daily(platform.pool, 'people', platform.config.perDay.people);
  return [
    route(contract.listDemoPeople, () => listDemoPeople(platform)),
    route(contract.listPeople, ({ actor }) => people.listPeople(platform, actor.projectId)),
    route(contract.addPerson, async ({ actor, body }) => {
      await added(actor.id);
      return people.addPerson(platform, actor, body, (await projectNamed(platform.db, actor.projectId)).name);
    }),
    route(contract.addPeople, async ({ actor, body }) => {
      await added(actor.id, body.people.length);
      return people.addPeople(platform, actor, body.people, (await projectNamed(platform.db, actor.projectId)).name);
    }),
    route(contract.suggestPeople, ({ actor, query }) => people.suggestPeople(platform, actor, query.q)),
    route(contract.inviteAgain, async ({ actor, params }) =>
      people.inviteAgain(platform, actor, params.memberId!, (await projectNamed(platform.db, actor.projectId)).name),
    ),
    route(contract.removePerson, ({ actor, params, body }) =>
      removePerson(platform, actor, params.memberId!, body.successorId),
    ),
    route(contract.changeRoles, ({ actor, body }) => changeRoles(platform, actor, body)),
    route(contract.changeTeam, ({ actor, params, body }) => people.changeTeam(platform, actor, params.teamId!, body)),
    route(contract.changePerson, ({ actor, params, body }) =>
      people.changePerson(platform, actor, params.memberId!, body),
    ),
    route(contract.correctPerson, async ({ actor, params, body }) => {
      await added(actor.id);
      const { name } = await projectNamed(platform.db, actor.projectId);
      return correctPerson(platform, actor, params.memberId!, body, name);
    }),
    route(contract.changeParty, ({ actor, params, body }) => changeParty(platform, actor, params.partyId!, body)),
    route(contract.removeParty, ({ actor, params }) => removeParty(platform, actor, params.partyId!)),
    route(contract.removeTeam, ({ actor, params, body }) =>
      removeTeam(platform, actor, params.teamId!, body.successorId),
    ),
    route(contract.addTeam, ({ actor, body }) => people.addTeam(platform, actor, body)),
  ];
}
