/** The project is set up: people, names, folders. */
import * as identity from '@kindred/contract/identity/identity';
import * as people from '@kindred/contract/people/people';
import * as naming from '@kindred/contract/naming/naming';
import * as portfolio from '@kindred/contract/portfolio/portfolio';
import * as folders from '@kindred/contract/register/folders';
import { randomBytes } from 'node:crypto';
import type { ApiPerson } from '../client.ts';
import { STATION_SURVEY } from '../ifc/write-model.ts';
import { PEOPLE, type DemoPerson } from './people.ts';
import type { Teller } from './teller.ts';

export async function foundProject(story: Teller): Promise<void> {
  const [founder, ...others] = PEOPLE as [DemoPerson, ...DemoPerson[]];
  const maren = story.enter(founder.name);
  story.day(70);
  const session = await maren.call(identity.createFirstPerson, {
    body: { name: founder.name, email: founder.email, password: randomBytes(18).toString('base64url') },
  });
  story.know(founder.name, session.person.id);
  const project = await maren.call(portfolio.createProject, {
    body: {
      name: 'Orrin Point Lifeboat Station',
      number: 'ORP',
      kind: 'Emergency services',
      address: 'Slipway Road 1, Orrin Point',
      timeZone: 'Europe/Dublin',
      startsOn: story.dayAfter(0),
      finishesOn: story.dayAfter(420),
      latitude: 54.02,
      longitude: -5.31,
      value: 9_400_000,
      easting: STATION_SURVEY.eastings,
      northing: STATION_SURVEY.northings,
      height: 4.2,
      trueNorth: STATION_SURVEY.rotation,
    },
  });
  await story.open(project.id);
  await nameThings(story, maren);
  const { roles, teams, members } = await maren.call(people.listPeople, { params: story.project });
  const home = teams.find(({ name }) => name === founder.team)?.id ?? null;
  await maren.call(people.changePerson, {
    params: { ...story.project, memberId: members[0]!.id },
    body: { party: founder.party, teamId: home },
  });
  for (const person of others) {
    const member = await maren.call(people.addPerson, {
      params: story.project,
      body: {
        name: person.name,
        email: person.email,
        party: person.party,
        teamId: teams.find(({ name }) => name === person.team)?.id ?? null,
        roleIds: person.roles.map((name) => roles.find((role) => role.name === name)!.id),
      },
    });
    story.know(person.name, member.person.id);
  }
  const { items: mails } = await maren.call(identity.listOutbox, { query: { limit: 200 } });
  for (const { email, name } of others) {
    const key = mails.find(({ to }) => to === email)?.link?.split('invitation=')[1];
    if (!key || name === 'Tomas Brellin') continue; // he has not answered his invitation yet
    const password = randomBytes(18).toString('base64url');
    await story.enter(name).call(identity.acceptInvitation, { body: { key, password } });
  }
  await story.readFolders();
  await arrangeFolders(story, maren);
}

/** The station's own codes, and a second convention for what is found on site. */
async function nameThings(story: Teller, maren: ApiPerson): Promise<void> {
  const { conventions } = await maren.call(naming.showNaming, { params: story.project });
  const own = conventions[0]!;
  const meanings: Record<string, Record<string, string>> = {
    Project: { ORP: 'Orrin Point Lifeboat Station' },
    Function: { ZZ: 'All functions', BH: 'Boat hall', CB: 'Crew building', SY: 'Slipway and yard' },
  };
  const originators = [...new Map(PEOPLE.map(({ party }) => [party.code, party.name]))];
  await maren.call(naming.changeConvention, {
    params: { ...story.project, conventionId: own.id },
    body: {
      edition: own.edition,
      reason: 'Codes of the station and its five companies',
      definition: {
        ...own.definition,
        fields: own.definition.fields.map((field) => {
          if (field.name === 'Originator')
            return {
              name: field.name,
              kind: 'list' as const,
              values: originators.map(([code, meaning]) => ({ code, meaning })),
            };
          const known = meanings[field.name];
          if (!known) return field;
          return {
            name: field.name,
            kind: 'list' as const,
            values: Object.entries(known).map(([code, meaning]) => ({ code, meaning })),
          };
        }),
      },
    },
  });
  await maren.call(naming.addConvention, {
    params: story.project,
    body: {
      definition: {
        name: 'Site records',
        separator: '_',
        fields: [
          {
            name: 'Record',
            kind: 'list',
            values: [
              { code: 'PHO', meaning: 'Photograph' },
              { code: 'SUR', meaning: 'Survey' },
              { code: 'TST', meaning: 'Test result' },
            ],
          },
          { name: 'Day', kind: 'number', length: 8 },
          { name: 'Number', kind: 'number', minLength: 2, maxLength: 3 },
        ],
      },
    },
  });
}

/** A folder with names of its own, and one that the client does not see. */
async function arrangeFolders(story: Teller, maren: ApiPerson): Promise<void> {
  const shared = story.folder('Project documents');
  const { conventions } = await maren.call(naming.showNaming, { params: story.project });
  const add = (name: string, parentId: string) =>
    maren.call(folders.addFolder, { params: story.project, body: { name, parentId } });
  const site = await add('Site records', shared);
  await maren.call(folders.changeFolder, {
    params: { ...story.project, folderId: site.id },
    body: {
      edition: site.edition,
      conventionId: conventions.find(({ definition }) => definition.name === 'Site records')!.id,
    },
  });
  const tender = await add('Tender', shared);
  await add('Tender prices', tender.id);
  const { roles, members, teams, parties } = await maren.call(people.listPeople, { params: story.project });
  const role = (name: string): string => roles.find((one) => one.name === name)!.id;
  const quillon = parties.find(({ code }) => code === 'QMW')!.id;
  const greta = members.find(({ person }) => person.name === 'Greta Halvers')!.id;
  await maren.call(folders.changeFolderPermissions, {
    params: { ...story.project, folderId: tender.id },
    body: {
      edition: tender.edition,
      permissions: [
        { subject: 'role', subjectId: role('Client'), level: 'hidden' },
        { subject: 'role', subjectId: role('Author'), level: 'see' },
        { subject: 'company', subjectId: quillon, level: 'hidden' },
        { subject: 'person', subjectId: greta, level: 'see' },
      ],
    },
  });
  const leads: Record<string, string> = { Architecture: 'tolvik', Structure: 'callowby', Services: 'marlowe-tait' };
  for (const team of teams)
    await maren.call(people.changeTeam, {
      params: { ...story.project, teamId: team.id },
      body: { leadId: story.personId(leads[team.name]!) },
    });
}
