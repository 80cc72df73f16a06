/** Other programs stay in step by the BCF API: with the rights of whoever let them in, and by the rules of the project. */
import { addProgram, letProgramIn, removeProgram } from '@kindred/contract/identity/programs';
import { createToken } from '@kindred/contract/identity/identity';
import { changeIssue, listIssues, raiseIssue, showIssue } from '@kindred/contract/issues/issues';
import { createHash, randomBytes } from 'node:crypto';
import fs from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { runBcfDesk } from '../../packages/cli/src/bcf-desk.ts';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { deliverFile, refusal } from './harness.ts';
import { architect, DRAWINGS, engineer, nextCode, project, server, text, threePeople } from './three-people.ts';

threePeople();
const PIXEL = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';

let founderToken: string;
let engineerToken: string;
beforeAll(async () => {
  founderToken = (await project.founder.call(createToken, { body: { name: 'desk' } })).secret;
  engineerToken = (await engineer.api.call(createToken, { body: { name: 'desk' } })).secret;
});
type Json = Record<string, never> & { [name: string]: unknown };
async function ask(method: string, path: string, body?: unknown, token = founderToken) {
  const response = await fetch(`${server.address}${path}`, {
    method,
    headers: { authorization: `Bearer ${token}`, ...(body !== undefined && { 'content-type': 'application/json' }) },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  });
  const said = await response.text();
  return { status: response.status, json: (said ? JSON.parse(said) : null) as Json & Json[] };
}
const at = (version = '3.0') => `/bcf/${version}/projects/${project.projectId}`;
const raise = (person: ApiPerson, title: string, more = {}) =>
  person.call(raiseIssue, { params: project.params, body: { title, type: 'question', priority: 'normal', ...more } });

describe('who one is and what is spoken', () => {
  it('is said before anybody is let in', async () => {
    const { json } = await ask('GET', '/foundation/versions', undefined, 'nobody');
    expect(json.versions).toMatchObject([
      { api_id: 'foundation' },
      { api_id: 'bcf', version_id: '3.0' },
      { version_id: '2.1' },
    ]);
    expect((await ask('GET', '/foundation/1.1/auth', undefined, 'nobody')).json).toMatchObject({
      oauth2_token_url: expect.stringMatching(/\/oauth\/token$/),
      supported_oauth2_flows: ['authorization_code_grant'],
    });
    expect((await ask('GET', '/foundation/1.1/current-user', undefined, 'nobody')).status).toBe(401);
    expect((await ask('GET', '/foundation/1.1/current-user')).json).toMatchObject({ id: expect.stringContaining('@') });
    expect((await ask('GET', '/bcf/3.0/nothing')).json).toMatchObject({ message: expect.any(String) });
  });
  it('projects and extensions', async () => {
    expect((await ask('GET', '/bcf/3.0/projects')).json).toMatchObject([{ project_id: project.projectId }]);
    expect((await ask('GET', `${at()}/extensions`)).json).toMatchObject({
      ...{ topic_type: expect.arrayContaining(['clash']), priority: expect.arrayContaining(['blocking']) },
      users: expect.arrayContaining([expect.stringContaining('@')]),
    });
    expect((await ask('GET', `${at('2.1')}/extensions`)).json).toHaveProperty('user_id_type');
    expect((await ask('GET', `/bcf/3.0/projects/${crypto.randomUUID()}/topics`)).status).toBe(404);
    expect((await ask('GET', `${at('4.0')}/topics`)).status).toBe(404);
  });
});

describe('topics', () => {
  it('are raised, changed and read back; a status changed there shows here at once', async () => {
    const guid = crypto.randomUUID();
    const body = {
      guid,
      title: 'From a desk',
      topic_type: 'clash',
      topic_status: 'Open',
      priority: 'high',
      due_date: '2026-12-24',
      stage: 'Tender',
    };
    const made = await ask('POST', `${at()}/topics`, body);
    expect(made).toMatchObject({
      status: 201,
      json: { guid, title: 'From a desk', topic_status: 'open', stage: 'Tender' },
    });
    expect((await ask('POST', `${at()}/topics`, body)).status).toBe(409);
    const put = await ask('PUT', `${at()}/topics/${guid}`, { title: 'From a desk', topic_status: 'Resolved' });
    expect(put).toMatchObject({
      status: 200,
      json: { topic_status: 'Resolved', priority: 'high', due_date: '2026-12-24' },
    });
    const [issue] = (await engineer.api.call(listIssues, { params: project.params, query: { q: 'From a desk' } }))
      .items;
    expect(issue).toMatchObject({ status: 'answered', priority: 'high', type: 'clash' });
    // And the other way round.
    await project.founder.call(changeIssue, {
      params: { ...project.params, issueId: issue!.id },
      body: { edition: issue!.edition, action: 'close' },
    });
    expect((await ask('GET', `${at()}/topics/${guid}`)).json).toMatchObject({ topic_status: 'closed' });
    const { json: events } = await ask('GET', `${at()}/topics/${guid}/events`);
    expect(events.map(({ actions }) => (actions as unknown as Json[])[0])).toMatchObject([
      { type: 'status_updated', value: 'closed' },
      { type: 'status_updated', value: 'answered' },
      { type: 'topic_created' },
    ]);
  });

  it('keep to the words and the rules of the project', async () => {
    const wrong = async (body: object) => ask('POST', `${at()}/topics`, { title: 'x', ...body });
    for (const body of [
      { topic_type: 'Banana' },
      { priority: 'Banana' },
      { topic_status: 'Banana' },
      { labels: ['Banana'] },
      { assigned_to: 'nobody@elsewhere.invalid' },
    ])
      expect(await wrong(body)).toMatchObject({ status: 422, json: { message: expect.any(String) } });
    expect((await ask('POST', `${at()}/topics`, { title: ' ' })).status).toBe(400);
    const theirs = await raise(project.founder, 'Not hers');
    const path = `${at()}/topics/${theirs.id}`;
    expect((await ask('PUT', path, { title: 'Hers now' }, engineerToken)).status).toBe(403);
    expect((await ask('GET', path, undefined, engineerToken)).json).toMatchObject({ title: 'Not hers' });
  });

  it('are found by filters and in orders, page by page', async () => {
    for (const [title, priority] of [
      ['OData a', 'low'],
      ['OData b', 'high'],
      ['OData c', 'high'],
    ] as const)
      await raise(project.founder, title, { priority });
    const titles = async (query: string) => {
      const { json } = await ask('GET', `${at()}/topics?${query}`);
      return json.map(({ title }) => title);
    };
    const named = (more: string) => `$filter=${encodeURIComponent(`contains(title,'OData') ${more}`)}`;
    expect(await titles(`${named("and priority eq 'high'")}&$orderby=title desc`)).toEqual(['OData c', 'OData b']);
    expect(await titles(`${named("and not (priority eq 'high')")}`)).toEqual(['OData a']);
    expect(await titles(`${named('')}&$orderby=title&$top=1&$skip=1`)).toEqual(['OData b']);
    expect(await titles(named("and topic_status eq 'Open' and creation_date gt 2020-01-01T00:00:00Z"))).toHaveLength(3);
    expect(await titles(named('and assigned_to eq null'))).toHaveLength(3);
    expect(await titles(named('and due_date ge 2999-01-01'))).toEqual([]);
    for (const wrong of ["banana eq 'x'", 'title', "title eq 'x", "labels gt 'x'", 'index eq two'])
      expect(await ask('GET', `${at()}/topics?$filter=${encodeURIComponent(wrong)}`)).toMatchObject({ status: 422 });
    expect((await ask('GET', `${at()}/topics?$orderby=banana`)).status).toBe(422);
  });

  it('at places that one does not see do not exist', async () => {
    const hidden = await deliverFile(project, architect.api, DRAWINGS, `${nextCode()}.pdf`, text('private'));
    const place = { versionId: hidden.versionId, page: null, x: 0, y: 0 };
    const issue = await raise(architect.api, 'Hidden one', { place });
    expect((await ask('GET', `${at()}/topics/${issue.id}`, undefined, engineerToken)).status).toBe(404);
    const { json } = await ask('GET', `${at()}/topics?$top=500`, undefined, engineerToken);
    expect(JSON.stringify(json)).not.toContain('Hidden one');
    const events = await ask('GET', `${at()}/topics/events?$top=500`, undefined, engineerToken);
    expect(JSON.stringify(events.json)).not.toContain(issue.id);
  });
});

it('comments and viewpoints come and go', async () => {
  const issue = await raise(project.founder, 'Talk to me');
  const topic = `${at()}/topics/${issue.id}`;
  const guid = crypto.randomUUID();
  const said = await ask('POST', `${topic}/comments`, { guid, comment: 'From afar' });
  expect(said).toMatchObject({ status: 201, json: { guid, comment: 'From afar', topic_guid: issue.id } });
  expect((await ask('POST', `${topic}/comments`, { guid, comment: 'Again' })).status).toBe(409);
  expect((await ask('PUT', `${topic}/comments/${guid}`, { comment: 'From nearby' })).json).toMatchObject({
    comment: 'From nearby',
  });
  expect((await ask('PUT', `${topic}/comments/${guid}`, { comment: 'Mine' }, engineerToken)).status).toBe(403);
  expect((await ask('GET', `${at()}/topics/comments/events`)).json[0]).toMatchObject({
    actions: [{ type: 'comment_text_updated' }],
  });
  await ask('DELETE', `${topic}/comments/${guid}`);
  expect((await ask('GET', `${topic}/comments`)).json).toEqual([]);

  const viewpoint = {
    guid: crypto.randomUUID(),
    orthogonal_camera: {
      ...{ camera_view_point: { x: 1, y: 2, z: 3 }, camera_direction: { x: 0, y: 1, z: 0 } },
      ...{ camera_up_vector: { x: 0, y: 0, z: 1 }, view_to_world_scale: 12, aspect_ratio: 1.5 },
    },
    clipping_planes: [{ location: { x: 0, y: 0, z: 1 }, direction: { x: 0, y: 0, z: 1 } }],
    components: {
      selection: [{ ifc_guid: '1YvctVUKr0kugbFTf53O9L' }],
      coloring: [{ color: '#FF8000', components: [{ ifc_guid: '1YvctVUKr0kugbFTf53O9L' }] }],
      visibility: { default_visibility: false, exceptions: [{ ifc_guid: '1YvctVUKr0kugbFTf53O9L' }] },
    },
    snapshot: { snapshot_type: 'png', snapshot_data: PIXEL },
  };
  expect((await ask('POST', `${topic}/viewpoints`, viewpoint)).status).toBe(201);
  const one = `${topic}/viewpoints/${viewpoint.guid}`;
  expect((await ask('GET', one)).json).toMatchObject({
    orthogonal_camera: viewpoint.orthogonal_camera,
    clipping_planes: viewpoint.clipping_planes,
    snapshot: { snapshot_type: 'png' },
  });
  expect((await ask('GET', `${one}/selection`)).json).toMatchObject({ selection: viewpoint.components.selection });
  expect((await ask('GET', `${one}/coloring`)).json).toMatchObject({ coloring: [{ color: 'FF8000' }] });
  expect((await ask('GET', `${one}/visibility`)).json).toMatchObject({ visibility: { default_visibility: false } });
  const picture = await fetch(`${server.address}${one}/snapshot`, {
    headers: { authorization: `Bearer ${founderToken}` },
  });
  expect(picture.headers.get('content-type')).toBe('image/png');
  const broken = { ...viewpoint, guid: crypto.randomUUID(), snapshot: { snapshot_type: 'png', snapshot_data: 'AAAA' } };
  expect((await ask('POST', `${topic}/viewpoints`, broken)).status).toBe(422);
  expect(
    (await project.founder.call(showIssue, { params: { ...project.params, issueId: issue.id } })).pictures,
  ).toHaveLength(1);
});

describe('a program that is let in', () => {
  const redirectUri = 'http://127.0.0.1:9999/back';
  const register = () => project.founder.call(addProgram, { body: { name: 'Desk', redirectUris: [redirectUri] } });
  const verifier = randomBytes(32).toString('base64url');
  const codeChallenge = createHash('sha256').update(verifier).digest('base64url');
  async function token(form: Record<string, string>) {
    const response = await fetch(`${server.address}/oauth/token`, { method: 'POST', body: new URLSearchParams(form) });
    return { status: response.status, json: (await response.json()) as Json };
  }

  it('acts in the name of whoever let it in, until it ends', async () => {
    const { program } = await register();
    const { redirect } = await engineer.api.call(letProgramIn, {
      params: { programId: program.id },
      body: { redirectUri, state: 'a b', codeChallenge },
    });
    const back = new URL(redirect);
    expect(back.searchParams.get('state')).toBe('a b');
    const form = {
      ...{ grant_type: 'authorization_code', client_id: program.id, redirect_uri: redirectUri },
      ...{ code: back.searchParams.get('code')!, code_verifier: verifier },
    };
    const given = await token(form);
    expect(given).toMatchObject({ status: 200, json: { token_type: 'bearer', expires_in: 3600 } });
    const access = String(given.json.access_token);
    expect((await ask('GET', '/foundation/1.1/current-user', undefined, access)).json).toMatchObject({
      name: 'Eve Engineer',
    });
    // The code is good once.
    expect(await token(form)).toMatchObject({ status: 400, json: { error: 'invalid_grant' } });
    const refresh = {
      grant_type: 'refresh_token',
      client_id: program.id,
      refresh_token: String(given.json.refresh_token),
    };
    const renewed = await token(refresh);
    expect(renewed.status).toBe(200);
    expect((await ask('GET', '/foundation/1.1/current-user', undefined, access)).status).toBe(401);
    expect((await token(refresh)).status).toBe(400);
    await project.founder.call(removeProgram, { params: { programId: program.id } });
    const after = String(renewed.json.access_token);
    expect((await ask('GET', '/foundation/1.1/current-user', undefined, after)).status).toBe(401);
  });

  it('gets nothing with another address, a wrong verifier, no secret, or a name that nobody knows', async () => {
    const { program, secret } = await register();
    const params = { programId: program.id };
    expect(
      await refusal(engineer.api.call(letProgramIn, { params, body: { redirectUri: 'https://elsewhere.invalid/' } })),
    ).toMatchObject({ code: 'wrong-redirect' });
    const codeOf = async (body: object) => {
      const { redirect } = await engineer.api.call(letProgramIn, { params, body: { redirectUri, ...body } });
      return new URL(redirect).searchParams.get('code')!;
    };
    const form = { grant_type: 'authorization_code', client_id: program.id, redirect_uri: redirectUri };
    expect((await token({ ...form, code: await codeOf({ codeChallenge }), code_verifier: 'wrong' })).status).toBe(400);
    expect((await token({ ...form, code: await codeOf({}) })).status).toBe(400);
    expect(await token({ ...form, code: await codeOf({}), client_secret: 'wrong' })).toMatchObject({
      status: 401,
      json: { error: 'invalid_client' },
    });
    expect((await token({ ...form, code: await codeOf({}), client_secret: secret })).status).toBe(200);
    expect((await token({ ...form, client_id: crypto.randomUUID(), code: 'x' })).status).toBe(401);
    expect((await token({ grant_type: 'password', client_id: program.id })).json).toMatchObject({
      error: 'unsupported_grant_type',
    });
    expect(
      await refusal(engineer.api.call(addProgram, { body: { name: 'Mine', redirectUris: [redirectUri] } })),
    ).toMatchObject({ status: 403 });
  });
});

describe('another program with a folder of topics', () => {
  const desk = async (folder: string) =>
    runBcfDesk({
      folder,
      server: server.address,
      token: founderToken,
      projectId: project.projectId,
      say: () => undefined,
    });
  const read = async (file: string) => JSON.parse(await fs.readFile(file, 'utf8')) as Json & { comments: Json[] };

  it('stays in step both ways; what stops it half-way is not done twice', async () => {
    const folder = await fs.mkdtemp(path.join(os.tmpdir(), 'desk-'));
    const issue = await raise(project.founder, 'In step');
    await desk(folder);
    const file = path.join(folder, `${issue.id}.json`);
    expect(await read(file)).toMatchObject({ title: 'In step', topic_status: 'open', comments: [] });

    // There: another status, and a word. Here meanwhile: another priority.
    const there = await read(file);
    await fs.writeFile(file, JSON.stringify({ ...there, topic_status: 'in hand', comments: [{ comment: 'On it' }] }));
    const params = { ...project.params, issueId: issue.id };
    await project.founder.call(changeIssue, { params, body: { edition: 1, priority: 'high' } });
    await desk(folder);
    const shown = await project.founder.call(showIssue, { params });
    expect(shown).toMatchObject({
      issue: { status: 'in hand', priority: 'high', comments: 1 },
      comments: [{ text: 'On it' }],
    });
    expect(await read(file)).toMatchObject({
      priority: 'high',
      topic_status: 'in hand',
      comments: [{ date: expect.any(String) }],
    });

    // Sent, but the answer never came: the comment has its GUID already.
    const stopped = await read(file);
    const guid = String(stopped.comments[0]!.guid);
    await fs.writeFile(file, JSON.stringify({ ...stopped, comments: [{ guid, comment: 'On it' }] }));
    await desk(folder);
    expect((await project.founder.call(showIssue, { params })).issue.comments).toBe(1);

    // A file that somebody puts there becomes a topic.
    const fresh = crypto.randomUUID();
    await fs.writeFile(
      path.join(folder, `${fresh}.json`),
      JSON.stringify({ guid: fresh, title: 'From the folder', comments: [] }),
    );
    await desk(folder);
    const { items } = await project.founder.call(listIssues, {
      params: project.params,
      query: { q: 'From the folder' },
    });
    expect(items).toHaveLength(1);
    await desk(folder);
    await fs.rm(folder, { recursive: true });
  });
});
