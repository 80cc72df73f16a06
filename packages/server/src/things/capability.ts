import * as contract from '@kindred/contract/things/things';
import type { Capability } from '../platform/capability.ts';
import type { Member } from '../platform/caller.ts';
import { route } from '../platform/http.ts';
import type { Thing } from '../platform/subjects.ts';
import { listHistory } from './history.ts';

const withLinks = ({ projectId }: Member, things: Thing[]): contract.Thing[] =>
  things.map(({ type, id, title, note, path, at }) => ({
    type,
    id,
    title,
    note,
    link: `/projects/${projectId}/${path}`,
    at: at.toISOString(),
  }));

export const things: Capability = {
  name: 'things',
  routes: (platform) => {
    const { db, subjects } = platform;
    return [
      route(contract.jump, async ({ actor, query }) => withLinks(actor, await subjects.search(db, actor, query.q))),
      route(contract.listRelated, async ({ actor, query }) => {
        const { thing, items } = await subjects.related(db, actor, query.type, query.id);
        return { title: thing.title, items: withLinks(actor, items) };
      }),
      route(contract.listHistory, ({ actor, query }) => listHistory(platform, actor, query.type, query.id)),
    ];
  },
};
