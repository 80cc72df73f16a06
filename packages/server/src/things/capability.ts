import * as contract from '@kindred/contract/things/things';
import type { Capability } from '../platform/capability.ts';
import { route } from '../platform/http.ts';
import { listHistory } from './history.ts';

export const things: Capability = {
  name: 'things',
  routes: (platform) => {
    const { db, subjects } = platform;
    return [
      route(contract.jump, ({ actor, query }) => subjects.search(db, actor, query.q)),
      route(contract.listRelated, ({ actor, query }) => subjects.related(db, actor, query.type, query.id)),
      route(contract.listHistory, ({ actor, query }) => listHistory(platform, actor, query)),
    ];
  },
};
