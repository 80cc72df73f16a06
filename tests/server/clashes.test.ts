/** Federations and clashes: models of a folder looked at as one, rules that run when a version is shared, decisions that stay. */
import {
  addClashRule,
  cancelClashRun,
  changeClashRule,
  decideClashes,
  listClashes,
  listClashesOfIssue,
  listClashGroups,
  listClashRules,
  listClashRuns,
  removeClashRule,
  startClashRun,
} from '@kindred/contract/clash/clashes';
import {
  addFederation,
  changeFederation,
  listFederationPictures,
  listFederations,
  listLineUps,
  listModelPlaces,
  pinModel,
  removeFederation,
  removeLineUp,
  saveLineUp,
  showFederation,
} from '@kindred/contract/federation/federations';
import { raiseIssue } from '@kindred/contract/issues/issues';
import type { Body } from '@kindred/contract/platform/operation';
import { addFolder, removeFolder } from '@kindred/contract/register/folders';
import { linkPlan, listPlanLinks } from '@kindred/contract/plan/plan-links';
import { showContainer } from '@kindred/contract/register/register';
import { placeModel, showPlacing } from '@kindred/contract/scene/placings';
import { listHistory } from '@kindred/contract/things/things';
import { listNotices } from '@kindred/contract/identity/identity';
import { sql } from 'drizzle-orm';
import sharp from 'sharp';
import { beforeAll, expect, it, vi } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import type { Part, Vector } from '../../packages/demo/src/building/parts.ts';
import { writeModel } from '../../packages/demo/src/ifc/write-model.ts';
import { deliverFile, prepared, refusal, share } from './harness.ts';
import { CLASH } from '../../packages/server/src/clash/runs.ts';
import { drawing } from './markup-table.ts';
import { architect, engineer, project, server, text, threePeople } from './three-people.ts';

vi.setConfig({ testTimeout: 400_000, hookTimeout: 400_000 });
threePeople();

const part = (key: string, of: string, at: Vector, size: Vector, over: Partial<Part> = {}): Part => ({
  ...{
    key,
    class: of.toUpperCase(),
    name: key,
    type: of.slice(3),
    material: 'Steel',
    colour: [120, 120, 120] as Vector,
  },
  ...{ storey: '00 Ground', at, size, ...over },
});
const wall = part('Wall', 'IfcWall', [0, 20, 5], [6, 0.3, 3]);
const beams = [0, 1, 2].map((i) => part(`Beam ${i}`, 'IfcBeam', [1 + i, -2, 6], [0.2, 6, 0.3]));
/** A duct through the beams, `away` metres off. */
const duct = (away = 0) => part('Duct', 'IfcDuctSegment', [0, -1.5 - away * 100, 6.1], [6, 0.3, 0.15]);
const ifc = (parts: readonly Part[], title: string) =>
  text(writeModel(parts, { title, organisation: 'Nobody', schema: 'IFC4' }));

const FOLDERS = { architecture: 'Architecture / Models', structure: 'Structure / Models' } as const;
const CODES = { architecture: 'ORP-TVA-ZZ-ZZ-M-A-0071.ifc', structure: 'ORP-HQS-ZZ-ZZ-M-S-0071.ifc' } as const;
async function send(person: ApiPerson, folder: keyof typeof FOLDERS, parts: readonly Part[]): Promise<string> {
  const { containerId } = await deliverFile(project, person, FOLDERS[folder], CODES[folder], ifc(parts, folder));
  await prepared(project, person, containerId);
  return containerId;
}

let federationId: string;
let models: Record<keyof typeof FOLDERS, string>;
const params = () => ({ ...project.params, federationId });
const SETS = { match: 'all' as const, conditions: [] };
const content = (over: Partial<Body<typeof addClashRule>> = {}): Body<typeof addClashRule> => ({
  ...{ federationId, name: 'Everything', a: SETS, b: SETS, kinds: ['hard'], tolerance: 0.001, clearance: 0 },
  ...{ ignores: ['same model'], ...over },
});
const ruled = (ruleId: string) => ({ ...project.params, ruleId });
const rule = async (person: ApiPerson, ruleId: string) =>
  (await person.call(listClashRules, { params: project.params })).find(({ id }) => id === ruleId)!;
const ran = (ruleId: string, runs: number) =>
  vi.waitFor(
    async () => {
      const { items } = await architect.api.call(listClashRuns, { params: ruled(ruleId) });
      expect(items.filter(({ status }) => status === 'ready')).toHaveLength(runs);
      return items[0]!;
    },
    { timeout: 300_000, interval: 150 },
  );
const clashesOf = async (person: ApiPerson, ruleId: string) =>
  (await person.call(listClashes, { params: ruled(ruleId) })).items;
const told = async (ruleId: string) =>
  (await clashesOf(architect.api, ruleId)).map(({ a, b, state }) => [[a.name, b.name].sort().join(' × '), state]);

beforeAll(async () => {
  models = {
    architecture: await send(architect.api, 'architecture', [wall, duct()]),
    structure: await send(engineer.api, 'structure', beams),
  };
  const root = project.folders.get('Architecture')!;
  const made = await architect.api.call(addFederation, {
    params: project.params,
    body: { name: 'Architecture alone', folderId: root },
  });
  federationId = made.federation.id;
});

it('holds the models of a folder and below it, each at the newest that one sees or where it is held', async () => {
  const mine = await architect.api.call(showFederation, { params: params() });
  expect(mine.models.map(({ code, number, pinned }) => [code, number, pinned])).toEqual([
    ['ORP-TVA-ZZ-ZZ-M-A-0071', 1, false],
  ]);
  const [place] = await architect.api.call(listModelPlaces, { params: params() });
  expect(place).toMatchObject({ containerId: models.architecture, findings: [], placing: null });
  expect(place!.position!.bounds!.map((value) => Math.round(value * 10) / 10)).toEqual([0, -1.5, 5, 6, 20.3, 8]);
  // Work in progress of others is not there.
  expect(await engineer.api.call(listModelPlaces, { params: params() })).toEqual([]);
  expect((await engineer.api.call(showFederation, { params: params() })).models).toEqual([]);
  await send(architect.api, 'architecture', [wall, duct()]);
  const { versions } = await architect.api.call(showContainer, {
    params: { ...project.params, containerId: models.architecture },
  });
  const pin = { ...params(), containerId: models.architecture };
  const held = await architect.api.call(pinModel, { params: pin, body: { versionId: versions[1]!.id } });
  expect(held.models[0]).toMatchObject({ number: 1, pinned: true, newest: { number: 2 } });
  const free = await architect.api.call(pinModel, { params: pin, body: { versionId: null } });
  expect(free.models[0]).toMatchObject({ number: 2, pinned: false });
  const foreign = { ...params(), containerId: models.structure };
  expect(await refusal(architect.api.call(pinModel, { params: foreign, body: { versionId: null } }))).toMatchObject({
    status: 404,
  });
});

it('is renamed and moved by whoever read it last, and outlives its folder', async () => {
  const taken = architect.api.call(addFederation, {
    params: project.params,
    body: { name: 'Architecture alone', folderId: project.folders.get('Architecture')! },
  });
  expect(await refusal(taken)).toMatchObject({ code: 'name-taken' });
  const admin = project.founder;
  const folder = await admin.call(addFolder, {
    params: project.params,
    body: { parentId: null, name: 'Trial' },
  });
  const body = { edition: 1, name: 'Trial', folderId: folder.id };
  const moved = await architect.api.call(changeFederation, { params: params(), body });
  expect(moved.federation).toMatchObject({ name: 'Trial', folder: { path: 'Trial' }, models: 0, edition: 2 });
  expect(await refusal(architect.api.call(changeFederation, { params: params(), body }))).toMatchObject({
    status: 409,
  });
  await admin.call(removeFolder, { params: { ...project.params, folderId: folder.id } });
  const [left] = await architect.api.call(listFederations, { params: project.params });
  expect(left).toMatchObject({ name: 'Trial', folder: null, models: 0 });
  await architect.api.call(removeFederation, { params: params() });
  expect(await refusal(architect.api.call(showFederation, { params: params() }))).toMatchObject({ status: 404 });
});

it('runs its rules by itself when a version is shared; decisions stay, and what is gone proposes to close the issue', async () => {
  const whole = await architect.api.call(addFederation, {
    params: project.params,
    body: { name: 'Station', folderId: null },
  });
  federationId = whole.federation.id;
  expect(whole.federation).toMatchObject({ whole: true, models: 1 });
  const made = await architect.api.call(addClashRule, { params: project.params, body: content() });
  expect(await ran(made.id, 1)).toMatchObject({ pairs: 0, note: 'No model of this federation was shared yet.' });
  const taken = architect.api.call(addClashRule, { params: project.params, body: content() });
  expect(await refusal(taken)).toMatchObject({ code: 'name-taken' });

  await share(project, architect.api, models.architecture);
  await ran(made.id, 2);
  await share(project, engineer.api, models.structure);
  const run = await ran(made.id, 3);
  expect(run).toMatchObject({ pairs: 1, done: 1, counts: { new: 3, standing: 0, back: 0, gone: 0, accepted: 0 } });
  const found = await clashesOf(architect.api, made.id);
  expect(found.map(({ kind, state }) => [kind, state])).toEqual(Array(3).fill(['hard', 'new']));
  expect(found[0]!.depth).toBeCloseTo(0.15, 2);
  // One duct through three beams is one thing to decide.
  expect(await architect.api.call(listClashGroups, { params: ruled(made.id) })).toMatchObject([
    { number: 1, name: 'Duct against 3 × IfcBeam' },
  ]);

  // One is accepted, the others lead to an issue.
  const [first, ...others] = found as [(typeof found)[0], ...typeof found];
  const decide = (body: Body<typeof decideClashes>) =>
    architect.api.call(decideClashes, { params: ruled(made.id), body });
  await decide({ clashIds: [first.id], accepted: { reason: 'The beam gets a hole', until: null } });
  const issue = await architect.api.call(raiseIssue, {
    params: project.params,
    body: { title: 'Duct through beams', type: 'clash', priority: 'high' },
  });
  await decide({ clashIds: others.map(({ id }) => id), issueId: issue.id, assigneeId: engineer.id });
  expect((await rule(architect.api, made.id)).counts).toMatchObject({ new: 2, accepted: 1 });
  const listed = await clashesOf(engineer.api, made.id);
  expect(listed[0]!.accepted).toMatchObject({ by: { name: 'Ada Architect' }, reason: 'The beam gets a hole' });
  expect(listed[1]).toMatchObject({ assignee: { name: 'Eve Engineer' }, issue: { number: issue.number } });

  // The same again: known, with what was decided, new since the models are; nothing was looked for twice.
  await architect.api.call(startClashRun, { params: ruled(made.id) });
  await ran(made.id, 4);
  expect((await rule(architect.api, made.id)).counts).toMatchObject({ new: 2, standing: 0, accepted: 1 });
  const pairs = await server.platform.db.execute(sql`select count(*)::int as n from clash_pairs`);
  expect(pairs.rows[0]).toEqual({ n: 1 });

  // A version with the duct elsewhere, and every GlobalId of it new.
  await send(architect.api, 'architecture', [wall, { ...duct(1), key: 'Duct anew' }]);
  await share(project, architect.api, models.architecture);
  await ran(made.id, 5);
  expect((await rule(architect.api, made.id)).counts).toMatchObject({ new: 0, standing: 0, gone: 3, accepted: 0 });
  const of = await architect.api.call(listClashesOfIssue, { params: { ...project.params, issueId: issue.id } });
  expect(of.map(({ clash, goneAt }) => [clash.state, goneAt !== null])).toEqual(Array(2).fill(['gone', true]));
  const { items } = await architect.api.call(listNotices, {});
  expect(items.map((one) => one.text)).toContain(`The clashes of issue ${issue.number} are gone: Duct through beams`);

  // And back again, with the decision of the one that was accepted.
  await send(architect.api, 'architecture', [wall, { ...duct(), key: 'Duct once more' }]);
  await share(project, architect.api, models.architecture);
  await ran(made.id, 6);
  expect((await rule(architect.api, made.id)).counts).toMatchObject({ new: 0, back: 2, gone: 0, accepted: 1 });
  const { items: trend } = await architect.api.call(listClashRuns, { params: ruled(made.id) });
  expect(trend.map(({ counts }) => counts?.gone)).toEqual([0, 3, 0, 0, 0, 0]);

  // One that was killed half-way goes on; one that was stopped leaves what was there.
  const { platform } = server;
  const runId = trend[0]!.id;
  await platform.db.execute(sql`update clash_runs set status = 'running', done = 0 where id = ${runId}`);
  await platform.jobs.send(platform.db, CLASH, { runId });
  await ran(made.id, 6);
  expect((await rule(architect.api, made.id)).counts).toMatchObject({ standing: 2, accepted: 1 });
  // Of models that cannot be looked at nothing is told as gone.
  await platform.db.execute(
    sql`update products set product = 'away' where version_id = any(select unnest(version_ids) from clash_runs where id = ${runId}) and product = 'properties'`,
  );
  await platform.db.execute(sql`delete from clash_pairs`);
  await architect.api.call(startClashRun, { params: ruled(made.id) });
  expect((await ran(made.id, 7)).note).toContain('prepare them again');
  expect((await rule(architect.api, made.id)).counts).toMatchObject({ standing: 2, accepted: 1, gone: 0 });
  await platform.db.execute(sql`update products set product = 'properties' where product = 'away'`);
  // A drawing that is shared is no reason to look for clashes.
  const runs = async () => (await architect.api.call(listClashRuns, { params: ruled(made.id) })).items.length;
  const before = await runs();
  const sheet = await drawing(project, architect.api);
  await share(project, architect.api, sheet.containerId);
  expect(await runs()).toBe(before);
  await platform.db.execute(
    sql`update clash_runs set status = 'cancelled' where id = ${(await rule(architect.api, made.id)).run!.id}`,
  );
  await platform.jobs.send(platform.db, CLASH, { runId });
  const stopped = await rule(architect.api, made.id);
  expect([stopped.run!.status, stopped.counts.standing]).toEqual(['cancelled', 2]);
});

it('finds the same in a changed model as anew, looking only at what changed', async () => {
  const made = await architect.api.call(addClashRule, {
    params: project.params,
    body: content({ name: 'Carried', kinds: ['hard', 'duplicate'] }),
  });
  await ran(made.id, 1);
  expect(await told(made.id)).toHaveLength(3);
  const more = part('Second duct', 'IfcDuctSegment', [0, 2, 6.1], [6, 0.3, 0.15]);
  await send(engineer.api, 'structure', [...beams.slice(1), { ...more, key: 'Strut', name: 'Strut' }]);
  await vi.waitFor(async () => {
    const { rows } = await server.platform.db.execute(
      sql`select count(*)::int as n from comparisons where status = 'ready' and rest_stays`,
    );
    expect(rows[0]!.n).toBeGreaterThan(0);
  });
  await share(project, engineer.api, models.structure);
  await ran(made.id, 2);
  expect((await told(made.id)).sort()).toEqual([
    ['Beam 0 × Duct', 'gone'],
    ['Beam 1 × Duct', 'standing'],
    ['Beam 2 × Duct', 'standing'],
  ]);
  const body = { ...content({ name: 'Carried', kinds: ['hard'] }), edition: 1 };
  const { federationId: _unused, ...changed } = body;
  void _unused;
  await architect.api.call(changeClashRule, { params: ruled(made.id), body: changed });
  await ran(made.id, 3);
  // Another rule looks at everything anew: the same.
  expect((await told(made.id)).map(([name]) => name).sort()).toEqual([
    'Beam 0 × Duct',
    'Beam 1 × Duct',
    'Beam 2 × Duct',
  ]);
  expect(await refusal(architect.api.call(changeClashRule, { params: ruled(made.id), body: changed }))).toMatchObject({
    status: 409,
  });
  expect(await refusal(architect.api.call(cancelClashRun, { params: ruled(made.id) }))).toMatchObject({
    code: 'run-ended',
  });
  await architect.api.call(removeClashRule, { params: ruled(made.id) });
  expect(await refusal(clashesOf(architect.api, made.id))).toMatchObject({ status: 404 });
});

it('puts a model to the others: its plans and clashes go along, and the way back is as short', async () => {
  const made = await architect.api.call(addClashRule, { params: project.params, body: content({ name: 'Placed' }) });
  await ran(made.id, 1);
  expect(await told(made.id)).toHaveLength(2);
  const at = { ...project.params, containerId: models.architecture };
  const sheet = await drawing(project, architect.api, undefined, 'ORP-TVA-ZZ-00-D-A-0172.pdf');
  const link: Body<typeof linkPlan> = {
    ...{ containerId: sheet.containerId, page: 1, modelId: models.architecture, storey: '00 Ground' },
    ...{ elevation: 0, top: 3, map: { a: 0.02, b: 0, c: 1, d: 9 }, error: 0, pairs: [{ plan: [1, 2], model: [3, 4] }] },
  };
  await architect.api.call(linkPlan, { params: project.params, body: link });
  const links = async () => architect.api.call(listPlanLinks, { params: project.params });
  const placing = { turn: 90, shift: [0, 0, 2] as [number, number, number] };
  await architect.api.call(placeModel, { params: at, body: { placing } });
  expect(await links()).toMatchObject([
    { elevation: 2, top: 5, map: { a: 0, b: 0.02, c: -9, d: 1 }, pairs: [{ model: [-4, 3] }] },
  ]);
  await ran(made.id, 2);
  expect((await told(made.id)).map(([, state]) => state)).toEqual(['gone', 'gone']);
  const place = async () =>
    (await architect.api.call(listModelPlaces, { params: params() })).find(
      ({ containerId }) => containerId === models.architecture,
    )!;
  const { set } = await place();
  expect(set).toMatchObject({ placing, by: { name: 'Ada Architect' } });
  const { versions } = await architect.api.call(showContainer, { params: at });
  const of = { ...project.params, versionId: versions[0]!.id };
  expect(await engineer.api.call(showPlacing, { params: of })).toEqual({ placing });
  const { items } = await architect.api.call(listHistory, {
    params: project.params,
    query: { type: 'container', id: models.architecture },
  });
  expect(items.find(({ verb }) => verb === 'model placed')).toMatchObject({ after: placing });

  await architect.api.call(placeModel, { params: at, body: { placing: null } });
  expect((await links())[0]!.map).toEqual({ a: 0.02, b: expect.closeTo(0), c: 1, d: 9 });
  await ran(made.id, 3);
  expect((await told(made.id)).map(([, state]) => state)).toEqual(['back', 'back']);
  expect((await place()).set).toBeNull();
  const noModel = { ...project.params, containerId: sheet.containerId };
  expect(await refusal(architect.api.call(placeModel, { params: noModel, body: { placing } }))).toMatchObject({
    code: 'no-model',
  });
});

it('says which set takes nothing, and that a model could not be prepared', async () => {
  const nothing = {
    match: 'all' as const,
    conditions: [{ set: '', name: 'Class', test: 'is' as const, value: 'IfcPile' }],
  };
  const made = await architect.api.call(addClashRule, {
    params: project.params,
    body: content({ name: 'Piles', b: nothing }),
  });
  expect((await ran(made.id, 1)).note).toBe('The second set takes no element of these models.');
  const broken = await deliverFile(
    ...([project, architect.api, FOLDERS.architecture, 'ORP-TVA-ZZ-ZZ-M-A-0073.ifc'] as const),
    text("ISO-10303-21;\nHEADER;\nFILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n#1=IFCWALL("),
  );
  await prepared(project, architect.api, broken.containerId);
  await share(project, architect.api, broken.containerId);
  await ran(made.id, 2);
  expect((await rule(architect.api, made.id)).run!.note).toContain(
    '1 model of this federation is left out: what was shared last could not be prepared.',
  );
});

it('has a picture of what everybody works with, for whoever sees all of it', async () => {
  const seen = async (person: ApiPerson) =>
    (await person.call(listFederationPictures, {})).find((one) => one.federationId === federationId);
  const first = await vi.waitFor(
    async () => {
      const found = await seen(architect.api);
      expect(found).toMatchObject({ projectId: project.params.projectId, name: 'Station' });
      return found!;
    },
    { timeout: 300_000, interval: 150 },
  );
  const address = `${server.address}/api/projects/${project.params.projectId}/federations/${federationId}/picture`;
  const response = await fetch(address, { headers: architect.api.headersForFiles() });
  const { data, info } = await sharp(Buffer.from(await response.arrayBuffer()))
    .raw()
    .toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([480, 320]);
  expect(data.filter((value, i) => i % 4 === 3 && value > 0).length).toBeGreaterThan(1000);
  expect(await seen(engineer.api)).toMatchObject({ picture: first.picture });
  const at = { ...project.params, containerId: models.architecture };
  await architect.api.call(placeModel, { params: at, body: { placing: { turn: 45, shift: [1, 2, 3] } } });
  await vi.waitFor(async () => expect((await seen(architect.api))?.picture).not.toBe(first.picture), {
    timeout: 300_000,
    interval: 150,
  });
  await architect.api.call(placeModel, { params: at, body: { placing: null } });
});

it('holds a set against what a line-up for everyone shows', async () => {
  const ducts = {
    match: 'all' as const,
    conditions: [{ set: '', name: 'Class', test: 'is' as const, value: 'IfcDuctSegment' }],
  };
  const frame = {
    ...{ name: 'Frame', shared: true, levels: [{ name: '00 Ground', elevation: 4.2 }], hidden: [] as string[] },
    models: [{ containerId: models.structure, versionId: null }],
  };
  const save = (over: Partial<typeof frame> = {}) =>
    architect.api.call(saveLineUp, { params: project.params, body: { ...frame, ...over } });
  const { id } = await save();
  const made = await architect.api.call(addClashRule, {
    params: project.params,
    body: content({ name: 'Frame', a: ducts, b: { ...SETS, lineUpId: id } }),
  });
  await ran(made.id, 1);
  const found = await clashesOf(architect.api, made.id);
  expect(found.map(({ state }) => state)).toEqual(['new', 'new']);
  const again = async (runs: number) => {
    await architect.api.call(startClashRun, { params: ruled(made.id) });
    await ran(made.id, runs);
    return (await told(made.id)).map(([, state]) => state).sort();
  };
  const beam = [found[0]!.a, found[0]!.b].find((one) => one.class === 'IfcBeam')!;
  await save({ hidden: [beam.globalId] });
  expect(await again(2)).toEqual(['gone', 'new']);
  await save({ levels: [{ name: 'Roof', elevation: 9 }] });
  expect(await again(3)).toEqual(['gone', 'gone']);
  await architect.api.call(removeLineUp, { params: { ...project.params, lineUpId: id } });
  await again(4);
  expect((await rule(architect.api, made.id)).run!.note).toMatch(/The line-up of the second set is not there any more/);
});

it('is removed with its rules and their clashes; issues stay', async () => {
  const { rows } = await server.platform.db.execute(sql`select count(*)::int as n from clashes`);
  expect(rows[0]!.n).toBeGreaterThan(0);
  await architect.api.call(removeFederation, { params: params() });
  expect(await architect.api.call(listClashRules, { params: project.params })).toEqual([]);
  const left = await server.platform.db.execute(
    sql`select (select count(*) from clashes)::int as clashes, (select count(*) from issues)::int as issues`,
  );
  expect(left.rows[0]).toEqual({ clashes: 0, issues: 1 });
});

it('keeps line-ups for oneself or for everyone', async () => {
  const lineUp = {
    ...{ name: 'Level by level', shared: false, levels: [{ name: '00 Ground', elevation: 0 }], hidden: [] },
    models: [{ containerId: models.architecture, versionId: null }],
  };
  const saved = await architect.api.call(saveLineUp, { params: project.params, body: lineUp });
  expect(saved).toMatchObject({ mine: true, levels: [{ name: '00 Ground', elevation: 0 }] });
  expect(await engineer.api.call(listLineUps, { params: project.params })).toEqual([]);
  await architect.api.call(saveLineUp, { params: project.params, body: { ...lineUp, shared: true } });
  const [theirs] = await engineer.api.call(listLineUps, { params: project.params });
  expect(theirs).toMatchObject({ id: saved.id, mine: false, owner: 'Ada Architect' });
  expect(theirs!.versionIds).toHaveLength(1);
  const remove = { params: { ...project.params, lineUpId: saved.id } };
  expect(await refusal(engineer.api.call(removeLineUp, remove))).toMatchObject({ status: 403 });
  await architect.api.call(removeLineUp, remove);
  expect(await architect.api.call(listLineUps, { params: project.params })).toEqual([]);
});
