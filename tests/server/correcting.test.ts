/** What was typed wrong is corrected: people, their own names and addresses, companies, teams. */
import {
  acceptInvitation,
  changeAddress,
  changeName,
  confirmAddress,
  showSession,
  signIn,
} from '@kindred/contract/identity/identity';
import {
  addPerson,
  changeParty,
  correctPerson,
  listPeople,
  removeParty,
  removeTeam,
} from '@kindred/contract/people/people';
import { listFolders } from '@kindred/contract/register/folders';
import { addShareSet } from '@kindred/contract/register/share-sets';
import { listHistory } from '@kindred/contract/things/things';
import { describe, expect, it } from 'vitest';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { linkIn, refusal } from './harness.ts';
import { architect, engineer, first, project, server, show, threePeople } from './three-people.ts';

threePeople();

const invite = (name: string, email: string, party?: { name: string; code: string }) =>
  project.founder.call(addPerson, {
    params: project.params,
    body: { name, email, roleIds: [project.roles.get('Author')!], ...(party && { party }) },
  });
const correct = (memberId: string, name: string, email: string, api = project.founder) =>
  api.call(correctPerson, { params: { ...project.params, memberId }, body: { name, email } });
const people = () => project.founder.call(listPeople, { params: project.params });
const keyIn = async (email: string, name: string): Promise<string> =>
  (await linkIn(server, email)).split(`${name}=`)[1]!;
const accept = async (key: string): Promise<ApiPerson> => {
  const api = new ApiPerson(server.address, '');
  await api.call(acceptInvitation, { body: { key, password: 'a long enough password' } });
  return api;
};

describe('somebody who was invited and has not come', () => {
  it('gets the right name, and the invitation at the right address; the wrong one ends', async () => {
    const { id } = await invite('Ima Wrnog', 'ima.wrnog@test.example');
    const renamed = await correct(id, 'Ima Wrong', 'ima.wrnog@test.example');
    expect(renamed.person).toMatchObject({ name: 'Ima Wrong', initials: 'IW' });
    const wrongKey = await keyIn('ima.wrnog@test.example', 'invitation');
    const moved = await correct(id, 'Ima Wrong', 'Ima.Wrong@test.example');
    expect(moved).toMatchObject({ id, invited: true, person: { email: 'ima.wrong@test.example' } });
    expect(await refusal(accept(wrongKey))).toMatchObject({ status: 422 });
    const ima = await accept(await keyIn('ima.wrong@test.example', 'invitation'));
    expect((await ima.call(listPeople, { params: project.params })).members.map(({ id }) => id)).toContain(id);
    expect(await refusal(correct(id, 'Somebody Else', 'else@test.example'))).toMatchObject({ code: 'has-account' });
  });

  it('is not taken for somebody who is in the project already, and is corrected by those who may', async () => {
    const { id } = await invite('Otto Twice', 'otto@test.example');
    const taken = (await people()).members.find(({ person }) => person.id === engineer.id)!.person.email;
    expect(await refusal(correct(id, 'Otto Twice', taken))).toMatchObject({ code: 'already-member' });
    expect(await refusal(correct(id, 'Otto', 'otto@test.example', engineer.api))).toMatchObject({ status: 403 });
  });
});

describe('one’s own name and address', () => {
  it('holds once the link was opened, and nothing tells whether an address is known', async () => {
    const { id } = await invite('Una Own', 'una@test.example');
    expect(id).toBeTruthy();
    const una = await accept(await keyIn('una@test.example', 'invitation'));
    expect(await una.call(changeName, { body: { name: 'Una Owen' } })).toMatchObject({ name: 'Una Owen' });
    expect((await una.call(showSession)).person).toMatchObject({ name: 'Una Owen', initials: 'UO' });
    const ask = (address: string, password = 'a long enough password') =>
      una.call(changeAddress, { body: { address, password } });
    expect(await refusal(ask('new@test.example', 'not it'))).toMatchObject({ code: 'wrong-password' });
    await ask('new@test.example');
    const key = await keyIn('new@test.example', 'address');
    expect((await una.call(showSession)).person.email).toBe('una@test.example');
    const anybody = new ApiPerson(server.address, '');
    expect(await anybody.call(confirmAddress, { body: { key } })).toEqual({ address: 'new@test.example' });
    expect(await refusal(anybody.call(confirmAddress, { body: { key } }))).toMatchObject({ code: 'link-used' });
    await anybody.call(signIn, { body: { email: 'new@test.example', password: 'a long enough password' } });
    expect(await linkIn(server, 'una@test.example')).toBe('/me');

    await ask('founder@test.example');
    const taken = await keyIn('founder@test.example', 'address');
    expect(await refusal(anybody.call(confirmAddress, { body: { key: taken } }))).toMatchObject({
      code: 'address-taken',
    });
  });
});

describe('a company', () => {
  it('gets the right name and a code of its own, and goes when nobody is of it', async () => {
    const { id } = await invite('Pia Party', 'pia@test.example', { name: 'Hallward Quey', code: 'HQX' });
    await invite('Paul Party', 'paul@test.example', { name: 'Tarn Vale', code: 'TVX' });
    const partyId = (await people()).members.find((member) => member.id === id)!.party!.id;
    const params = { ...project.params, partyId };
    const rename = (body: { name: string; code: string }) => project.founder.call(changeParty, { params, body });
    expect(await rename({ name: 'Hallward Quay', code: 'HQY' })).toMatchObject({ name: 'Hallward Quay', code: 'HQY' });
    expect(await refusal(rename({ name: 'Hallward Quay', code: 'TVX' }))).toMatchObject({ code: 'code-taken' });
    expect(await refusal(project.founder.call(removeParty, { params }))).toMatchObject({ code: 'in-use' });
    expect(await refusal(architect.api.call(changeParty, { params, body: { name: 'X', code: 'XX' } }))).toMatchObject({
      status: 403,
    });
  });
});

describe('a team that is removed', () => {
  it('passes its people, folders, containers, work in progress and what only it knew to another', async () => {
    const one = await first();
    expect(await refusal(show(engineer.api, one.containerId))).toMatchObject({ status: 404 });
    const [from, to] = [project.teams.get('Architecture')!, project.teams.get('Structure')!];
    for (const teamId of [from, to])
      await project.founder.call(addShareSet, {
        params: project.params,
        body: { teamId, name: 'For all', sheetNumbers: [], viewpointIds: [] } as never,
      });
    const remove = (api: ApiPerson, successorId: string) =>
      api.call(removeTeam, { params: { ...project.params, teamId: from }, body: { successorId } });
    expect(await refusal(remove(architect.api, to))).toMatchObject({ status: 403 });
    expect(await refusal(remove(project.founder, from))).toMatchObject({ code: 'no-successor' });
    await remove(project.founder, to);

    const { teams, members } = await people();
    expect(teams.map(({ id }) => id)).not.toContain(from);
    expect(members.find(({ person }) => person.id === architect.id)!.team!.id).toBe(to);
    const folders = await project.founder.call(listFolders, { params: project.params });
    expect(folders.filter(({ teamId }) => teamId === from)).toEqual([]);
    expect((await show(engineer.api, one.containerId)).container).toMatchObject({
      teamId: to,
      state: 'work in progress',
    });
    const query = { type: 'container', id: one.containerId };
    const known = await engineer.api.call(listHistory, { params: project.params, query });
    expect(known.items.map(({ verb }) => verb)).toEqual(['delivered']);
  });
});
