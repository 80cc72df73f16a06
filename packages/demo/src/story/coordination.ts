/** The station's models looked at as one, rules of clashes, and what was decided of what they found. */
import * as clash from '@kindred/contract/clash/clashes';
import * as federation from '@kindred/contract/federation/federations';
import type { Teller } from './teller.ts';

const anyClass = (...words: string[]) => ({
  match: 'any' as const,
  conditions: words.map((value) => ({ set: '', name: 'Class', test: 'contains' as const, value })),
});
const SERVICES = anyClass('Duct', 'Pipe', 'Cable', 'Flow');

/** After the first deliveries: from now on the rules run whenever a model is shared. */
export async function foundFederations(story: Teller): Promise<void> {
  story.day(57, 11);
  const maren = story.as('tolvik');
  const make = (name: string, folderId: string | null) =>
    maren.call(federation.addFederation, { params: story.project, body: { name, folderId } });
  const whole = await make('Whole station', null);
  await make('Services alone', story.folder('Services'));
  const federationId = whole.federation.id;
  const add = (body: Omit<Parameters<typeof rule>[0], 'federationId'>) =>
    maren.call(clash.addClashRule, { params: story.project, body: rule({ federationId, ...body }) });
  await add({
    name: 'Services against structure',
    ...{ a: SERVICES, b: anyClass('Column', 'Beam', 'Footing', 'Member', 'Plate') },
    ignores: ['same system', 'insulation'],
  });
  await add({
    name: 'Services against walls',
    a: SERVICES,
    b: anyClass('Wall', 'Slab', 'Stair'),
    ignores: ['insulation'],
  });
}

const rule = (body: {
  federationId: string;
  name: string;
  a: ReturnType<typeof anyClass>;
  b: ReturnType<typeof anyClass>;
  ignores: clash.ClashRule['ignores'];
}) => ({ ...body, kinds: ['hard' as const], tolerance: 0.005, clearance: 0 });

/** The last coordination meeting went through what is open. */
export async function decideClashes(story: Teller): Promise<void> {
  story.day(6, 14);
  const haddingley = story.as('haddingley');
  for (const { id: ruleId, name } of await settled(story)) {
    const params = { ...story.project, ruleId };
    const { items } = await haddingley.call(clash.listClashes, { params, query: { limit: 500 } });
    const open = items.filter(({ state }) => state !== 'gone');
    const groups = new Map<string, string[]>();
    for (const { id, groupId } of open) groups.set(groupId, [...(groups.get(groupId) ?? []), id]);
    const [largest, second] = [...groups.values()].sort((p, q) => q.length - p.length);
    if (second && name === 'Services against walls')
      await haddingley.call(clash.decideClashes, {
        params,
        body: { clashIds: second, accepted: { reason: 'Sleeve is drawn on the builder’s work plan', until: null } },
      });
    if (largest)
      await haddingley.call(clash.decideClashes, {
        params,
        body: { clashIds: largest, assigneeId: story.personId('haddingley') },
      });
  }
}

/** All rules, when none of them runs any more. */
async function settled(story: Teller): Promise<clash.ClashRule[]> {
  for (let tries = 0; tries < 600; tries++) {
    const rules = await story.as('tolvik').call(clash.listClashRules, { params: story.project });
    if (rules.every(({ run }) => run && run.status !== 'waiting' && run.status !== 'running')) return rules;
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
  throw new Error('The rules of clashes of the demo did not end within five minutes.');
}
