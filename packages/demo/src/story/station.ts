/** Ten weeks of Orrin Point, told through the public API. */
import { Buffer } from 'node:buffer';
import * as drawing from '@kindred/contract/drawing/drawing';
import * as identity from '@kindred/contract/identity/identity';
import * as issues from '@kindred/contract/issues/issues';
import * as markup from '@kindred/contract/markup/markup';
import * as people from '@kindred/contract/people/people';
import * as naming from '@kindred/contract/naming/naming';
import * as portfolio from '@kindred/contract/portfolio/portfolio';
import * as folders from '@kindred/contract/register/folders';
import * as register from '@kindred/contract/register/register';
import * as review from '@kindred/contract/review/review';
import * as scene from '@kindred/contract/scene/scene';
import * as transmittal from '@kindred/contract/transmittal/transmittal';
import { randomBytes } from 'node:crypto';
import { CREW } from '../building/layout.ts';
import { ApiPerson } from '../client.ts';
import { stationSheets } from '../drawings/station-sheets.ts';
import { STATION_SURVEY } from '../ifc/write-model.ts';
import { lastWeeks, shareSecondVersions } from './exchange.ts';
import { MODELS, modelFile, elementId, sheetFiles } from './station-files.ts';
import { PEOPLE, type DemoPerson } from './people.ts';
import type { FileToSend, Teller } from './teller.ts';

const SURNAME = (name: string): string => name.split(' ').at(-1)!.toLowerCase();

export class StationStory implements Teller {
  private readonly persons = new Map<string, ApiPerson>();
  private readonly ids = new Map<string, string>();
  private readonly containers = new Map<string, { containerId: string; versionIds: string[] }>();
  private projectId = '';
  private folders = new Map<string, string>();
  private today = new Date();

  constructor(
    readonly address: string,
    private readonly clockSecret: string,
    private readonly say: (line: string) => void,
  ) {}

  get project() {
    return { projectId: this.projectId };
  }

  /** All people now live on this day of the story, `days` before today. */
  day(days: number, hour = 9): void {
    this.today = new Date();
    this.today.setUTCDate(this.today.getUTCDate() - days);
    this.today.setUTCHours(hour, 12, 0, 0);
    if (this.today > new Date()) this.today = new Date();
    for (const person of this.persons.values()) person.moment = this.today;
  }

  as(surname: string): ApiPerson {
    return this.persons.get(surname)!;
  }

  dayAfter(days: number): string {
    return new Date(this.today.getTime() + days * 86_400_000).toISOString().slice(0, 10);
  }

  async tell(): Promise<void> {
    await this.foundProject();
    this.say('project and people');
    await this.firstDeliveries();
    this.say('first deliveries');
    await this.firstReviews();
    await this.secondDeliveries();
    await shareSecondVersions(this);
    this.say('second deliveries');
    await this.questions();
    this.say('markups and issues');
    await this.laterReviews();
    await lastWeeks(this);
    await this.intake();
    await this.secondProject();
    await this.visitOnce();
  }

  private async foundProject(): Promise<void> {
    const [founder, ...others] = PEOPLE as [DemoPerson, ...DemoPerson[]];
    const maren = new ApiPerson(this.address, this.clockSecret);
    this.persons.set(SURNAME(founder.name), maren);
    this.day(70);
    const session = await maren.call(identity.createFirstPerson, {
      body: { name: founder.name, email: founder.email, password: randomBytes(18).toString('base64url') },
    });
    this.ids.set(SURNAME(founder.name), session.person.id);
    const project = await maren.call(portfolio.createProject, {
      body: {
        name: 'Orrin Point Lifeboat Station',
        number: 'ORP',
        kind: 'Emergency services',
        address: 'Slipway Road 1, Orrin Point',
        timeZone: 'Europe/Dublin',
        startsOn: this.dayAfter(0),
        finishesOn: this.dayAfter(420),
        latitude: 54.02,
        longitude: -5.31,
        value: 9_400_000,
        easting: STATION_SURVEY.eastings,
        northing: STATION_SURVEY.northings,
        height: 4.2,
        trueNorth: STATION_SURVEY.rotation,
      },
    });
    this.projectId = project.id;
    await this.nameThings(maren);
    const { roles, teams, members } = await maren.call(people.listPeople, { params: this.project });
    const home = teams.find(({ name }) => name === founder.team)?.id ?? null;
    await maren.call(people.changePerson, {
      params: { ...this.project, memberId: members[0]!.id },
      body: { party: founder.party, teamId: home },
    });
    for (const person of others) {
      const member = await maren.call(people.addPerson, {
        params: this.project,
        body: {
          name: person.name,
          email: person.email,
          party: person.party,
          teamId: teams.find(({ name }) => name === person.team)?.id ?? null,
          roleIds: person.roles.map((name) => roles.find((role) => role.name === name)!.id),
        },
      });
      this.ids.set(SURNAME(person.name), member.person.id);
    }
    const mails = await maren.call(identity.listOutbox);
    for (const { email, name } of others) {
      const key = mails.find(({ to }) => to === email)?.link?.split('invitation=')[1];
      if (!key || name === 'Tomas Brellin') continue; // he has not answered his invitation yet
      const api = new ApiPerson(this.address, this.clockSecret);
      api.moment = this.today;
      await api.call(identity.acceptInvitation, { body: { key, password: randomBytes(18).toString('base64url') } });
      this.persons.set(SURNAME(name), api);
    }
    for (const { id, path } of await maren.call(folders.listFolders, { params: this.project }))
      this.folders.set(path, id);
    await this.arrangeFolders(maren);
  }

  /** The station's own codes, and a second convention for what is found on site. */
  private async nameThings(maren: ApiPerson): Promise<void> {
    const { conventions } = await maren.call(naming.showNaming, { params: this.project });
    const own = conventions[0]!;
    const meanings: Record<string, Record<string, string>> = {
      Project: { ORP: 'Orrin Point Lifeboat Station' },
      Function: { ZZ: 'All functions', BH: 'Boat hall', CB: 'Crew building', SY: 'Slipway and yard' },
    };
    const originators = [...new Map(PEOPLE.map(({ party }) => [party.code, party.name]))];
    await maren.call(naming.changeConvention, {
      params: { ...this.project, conventionId: own.id },
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
      params: this.project,
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
  private async arrangeFolders(maren: ApiPerson): Promise<void> {
    const shared = this.folders.get('Project documents')!;
    const { conventions } = await maren.call(naming.showNaming, { params: this.project });
    const add = (name: string, parentId: string) =>
      maren.call(folders.addFolder, { params: this.project, body: { name, parentId } });
    const site = await add('Site records', shared);
    await maren.call(folders.changeFolder, {
      params: { ...this.project, folderId: site.id },
      body: {
        edition: site.edition,
        conventionId: conventions.find(({ definition }) => definition.name === 'Site records')!.id,
      },
    });
    const tender = await add('Tender', shared);
    await add('Tender prices', tender.id);
    const { roles, members, teams, parties } = await maren.call(people.listPeople, { params: this.project });
    const role = (name: string): string => roles.find((one) => one.name === name)!.id;
    const quillon = parties.find(({ code }) => code === 'QMW')!.id;
    const greta = members.find(({ person }) => person.name === 'Greta Halvers')!.id;
    await maren.call(folders.changeFolderPermissions, {
      params: { ...this.project, folderId: tender.id },
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
        params: { ...this.project, teamId: team.id },
        body: { leadId: this.ids.get(leads[team.name]!)! },
      });
  }

  async send(surname: string, folder: string, files: FileToSend[], status: string, revision: string): Promise<void> {
    const api = this.as(surname);
    const uploads = await Promise.all(
      files.map(({ code, extension, bytes }) => api.upload(this.projectId, code + extension, bytes)),
    );
    const delivered = await api.call(register.deliver, {
      params: this.project,
      body: {
        folderId: this.folders.get(folder)!,
        files: files.map(({ code, title, classification }, i) => ({
          uploadId: uploads[i]!,
          code,
          title,
          classification,
          status,
          revision,
        })),
      },
    });
    delivered.files.forEach(({ containerId, versionId }, i) => {
      const known = this.containers.get(files[i]!.code) ?? { containerId, versionIds: [] };
      known.versionIds.push(versionId);
      this.containers.set(files[i]!.code, known);
    });
  }

  async move(surname: string, code: string, action: 'share' | 'publish', shareSetId?: string): Promise<void> {
    await this.as(surname).call(register.moveStates, {
      params: this.project,
      body: { containerIds: [this.containers.get(code)!.containerId], action, ...(shareSetId && { shareSetId }) },
    });
  }

  version(code: string, number: number): string {
    return this.containers.get(code)!.versionIds[number - 1]!;
  }

  private async firstDeliveries(): Promise<void> {
    this.day(61, 15);
    await this.send('ferreby', 'Architecture / Models', [modelFile(0, { number: 1 })], 'S1', 'P01');
    await this.send(
      'asantewa',
      'Architecture / Drawings',
      await sheetFiles({ number: 1 }, 'P01', this.dayAfter(0)),
      'S3',
      'P01',
    );
    this.day(60, 10);
    await this.send('vossling', 'Structure / Models', [modelFile(1, { number: 1 })], 'S1', 'P01');
    this.day(59, 16);
    await this.send('haddingley', 'Services / Models', [modelFile(2, { number: 1 })], 'S1', 'P01');
    this.day(58);
    for (const [i, { code }] of MODELS.entries())
      await this.move(['ferreby', 'vossling', 'haddingley'][i]!, code, 'share');
    for (const { number } of stationSheets({ number: 1 })) await this.move('asantewa', number, 'share');
  }

  private async review(title: string, codes: string[], version: number, reviewers: string[][]): Promise<string> {
    const maren = this.as('tolvik');
    const { routes } = await maren.call(review.listReviewRoutes, { params: this.project });
    const route = routes.find(({ steps }) => steps.length === reviewers.length)!;
    const started = await maren.call(review.startReview, {
      params: this.project,
      body: {
        title,
        routeId: route.id,
        versionIds: codes.map((code) => this.version(code, version)),
        reviewers: reviewers.map((step) => step.map((name) => this.ids.get(name)!)),
      },
    });
    return started.id;
  }

  private async finish(
    reviewId: string,
    surname: string,
    code: string,
    comments: [code: string, version: number, text: string][] = [],
  ): Promise<void> {
    const params = { ...this.project, reviewId };
    for (const [container, version, text] of comments)
      await this.as(surname).call(review.commentReview, {
        params,
        body: { versionId: this.version(container, version), text },
      });
    await this.as(surname).call(review.finishReview, { params, body: { code } });
  }

  private async firstReviews(): Promise<void> {
    this.day(55);
    const plans = ['ORP-TVA-ZZ-00-D-A-0101', 'ORP-TVA-CB-01-D-A-0102'];
    const id = await this.review('Plans P01, stage review', plans, 1, [['callowby', 'marlowe-tait'], ['quistgard']]);
    this.day(52, 14);
    await this.finish(id, 'marlowe-tait', 'SEEN');
    await this.finish(id, 'callowby', 'AGAIN', [
      [
        plans[0]!,
        1,
        'Grid 4 and the pad foundations do not line up with the structural model: check the offset of 150 mm.',
      ],
      [plans[1]!, 1, 'Show the opening for the stair at +8.10, and which way it turns.'],
    ]);
    this.day(48);
    await this.as('tolvik').call(transmittal.sendTransmittal, {
      params: this.project,
      body: {
        title: 'Models and plans for coordination',
        reason: 'for coordination',
        message: 'First complete set. Please read the plans together with the structural model.',
        versionIds: [...MODELS.map(({ code }) => this.version(code, 1)), ...plans.map((code) => this.version(code, 1))],
        personIds: [this.ids.get('quistgard')!],
        partyIds: [
          ...new Set(
            (await this.as('tolvik').call(people.listPeople, { params: this.project })).parties
              .filter(({ code }) => code === 'QMW')
              .map(({ id }) => id),
          ),
        ],
        recipientsSeeEachOther: true,
      },
    });
    this.day(47, 11);
    const [sent] = await this.as('dunmarrow').call(transmittal.listTransmittals, { params: this.project });
    const params = { ...this.project, transmittalId: sent!.id };
    await this.as('dunmarrow').call(transmittal.showTransmittal, { params });
    await this.as('dunmarrow').call(transmittal.acknowledgeTransmittal, { params });
    this.day(46);
    await this.as('okafield').call(transmittal.showTransmittal, { params });
  }

  private async secondDeliveries(): Promise<void> {
    this.day(30, 16);
    await this.send('ferreby', 'Architecture / Models', [modelFile(0, { number: 2 })], 'S2', 'P02');
    await this.send(
      'asantewa',
      'Architecture / Drawings',
      await sheetFiles({ number: 2 }, 'P02', this.dayAfter(0)),
      'S3',
      'P02',
    );
    this.day(29, 12);
    await this.send('vossling', 'Structure / Models', [modelFile(1, { number: 2 })], 'S2', 'P02');
    this.day(27, 17);
    await this.send('haddingley', 'Services / Models', [modelFile(2, { number: 2 })], 'S2', 'P02');
  }

  async prepared(): Promise<void> {
    const maren = this.as('tolvik');
    for (let tries = 0; tries < 600; tries++) {
      const { items } = await maren.call(register.listContainers, { params: this.project, query: { limit: 200 } });
      if (items.every(({ preparation }) => preparation === 'ready')) return;
      const failed = items.find(({ preparation }) => preparation === 'failed');
      if (failed) throw new Error(`${failed.code}: ${failed.preparationNote}`);
      await new Promise((resolve) => setTimeout(resolve, 500));
    }
    throw new Error('The files of the demo were not prepared within five minutes.');
  }

  private async viewpoint(
    surname: string,
    name: string,
    models: number[],
    state: scene.ViewpointState,
  ): Promise<string> {
    const versionIds = models.map((i) => this.version(MODELS[i]!.code, 2));
    const picture = await fetch(
      `${this.address}/api/projects/${this.projectId}/versions/${versionIds[0]}/products/thumbnail`,
      { headers: this.as(surname).headersForFiles() },
    );
    const png = Buffer.from(await picture.arrayBuffer()).toString('base64');
    const saved = await this.as(surname).call(scene.addViewpoint, {
      params: this.project,
      body: { name, state, versionIds, picture: `data:image/png;base64,${png}` },
    });
    return saved.id;
  }

  private async questions(): Promise<void> {
    await this.prepared();
    this.day(26);
    const at = (
      position: [number, number, number],
      target: [number, number, number],
      selection: string[],
    ): scene.ViewpointState => ({
      camera: { position, target, fieldOfView: 50 },
      sections: [],
      hidden: [],
      isolated: null,
      selection,
    });
    const duct = await this.viewpoint(
      'tolvik',
      'Upper main duct at beam 13',
      [2, 1],
      at([CREW.x + 16, -6, 15], [CREW.x + 12, 4.4, 11.2], [elementId(2, 'DU-1S-10'), elementId(1, 'CB-1-2')]),
    );
    const plate = await this.viewpoint(
      'tolvik',
      'Column 4N without base plate',
      [1],
      at([22, 18.5, 6.4], [18, 14, 4.4], [elementId(1, 'COL-4N')]),
    );
    const wall = await this.viewpoint(
      'tolvik',
      'Partition beside the kit room',
      [0],
      at([CREW.x + 14, -9, 14], [CREW.x + 8.6, 2, 5], [elementId(0, 'P-00-2A')]),
    );
    const raise = async (surname: string, body: (typeof issues.raiseIssue)['body']['static']) =>
      (await this.as(surname).call(issues.raiseIssue, { params: this.project, body })).id;
    const ductIssue = await raise('tolvik', {
      title: 'Main duct runs through the beams of the upper floor',
      description:
        'Since version 2 the supply duct lies 220 mm lower than the beams allow, on the whole length. Was it lowered for the ceiling?',
      type: 'clash',
      priority: 'blocking',
      assigneeId: this.ids.get('haddingley')!,
      dueOn: this.dayAfter(10),
      viewpointId: duct,
    });
    const plateIssue = await raise('tolvik', {
      title: 'Base plate missing under column 4N',
      description: 'Bolts are gone too. It was there in version 1.',
      type: 'problem',
      priority: 'high',
      assigneeId: this.ids.get('vossling')!,
      dueOn: this.dayAfter(32),
      viewpointId: plate,
    });
    await raise('callowby', {
      title: 'Who moved the partition by 30 mm?',
      description: 'Nothing in the change notes of P02 asks for it.',
      type: 'question',
      priority: 'normal',
      assigneeId: this.ids.get('ferreby')!,
      dueOn: this.dayAfter(29),
      viewpointId: wall,
    });
    const plan = 'ORP-TVA-ZZ-00-D-A-0101';
    await raise('okafield', {
      title: 'Door to the drying room: which side do the hinges go?',
      type: 'question',
      priority: 'low',
      assigneeId: this.ids.get('asantewa')!,
      viewpointId: null,
      place: { versionId: this.version(plan, 2), page: 1, x: 1487, y: 751 },
    });
    this.day(24, 13);
    const ductParams = { ...this.project, issueId: ductIssue };
    await this.as('haddingley').call(issues.commentIssue, {
      params: ductParams,
      body: {
        text: 'The ceiling was lowered in the training room; I can go back to +11.00 if the lights move to the side.',
      },
    });
    await this.as('haddingley').call(issues.changeIssue, {
      params: ductParams,
      body: { edition: 1, action: 'take in hand', reason: 'Checking with the ceiling layout.' },
    });
    this.day(20);
    const plateParams = { ...this.project, issueId: plateIssue };
    await this.as('vossling').call(issues.commentIssue, {
      params: plateParams,
      body: { text: 'Lost when the frame was copied. It comes back with version 3.' },
    });
    await this.as('vossling').call(issues.changeIssue, {
      params: plateParams,
      body: { edition: 1, action: 'answer', reason: 'Will be in version 3.' },
    });
    await this.markups(plan);
  }

  private async markups(plan: string): Promise<void> {
    this.day(19, 10);
    const versionId = this.version(plan, 2);
    const params = { ...this.project, versionId };
    const [sheet] = await this.as('callowby').call(drawing.listSheets, { params });
    if (!sheet) throw new Error('The plan has no sheet.');
    const draw = async (
      surname: string,
      shape: markup.Markup['shape'],
      text: string,
      status: markup.Markup['status'],
    ) => (await this.as(surname).call(markup.addMarkup, { params, body: { page: 1, shape, text, status } })).id;
    const ids = [
      await draw(
        'callowby',
        {
          kind: 'cloud',
          points: [
            [1636, 735],
            [1708, 880],
          ],
        },
        'Partition moved by 30 mm without a request: put it back or say why.',
        'act',
      ),
      await draw(
        'callowby',
        { kind: 'callout', target: [1925, 712], box: [1960, 960, 280, 70] },
        'Stair: confirm the way it turns',
        'ask',
      ),
    ];
    await this.as('callowby').call(markup.publishMarkups, { params, body: { markupIds: ids } });
    await draw(
      'tolvik',
      { kind: 'callout', target: [907, 705], box: [560, 400, 290, 70] },
      'Ask the client for the boat length',
      'note',
    );
  }

  private async laterReviews(): Promise<void> {
    const maren = this.as('tolvik');
    this.day(18);
    const sections = ['ORP-TVA-ZZ-ZZ-D-A-0201', 'ORP-TVA-ZZ-ZZ-D-A-0301'];
    const second = await this.review('Section and elevation P02', sections, 2, [['callowby']]);
    this.day(16, 15);
    await this.finish(second, 'callowby', 'GO-N', [[sections[0]!, 2, 'Give the level of the gantry rail.']]);
    for (const code of sections) await this.move('tolvik', code, 'publish');
    this.day(14);
    await this.review('Plans P02, second review', ['ORP-TVA-ZZ-00-D-A-0101', 'ORP-TVA-CB-01-D-A-0102'], 2, [
      ['callowby', 'ferreby'],
      ['quistgard'],
    ]);
    this.day(3);
    await this.review('Ventilation model before the ceiling is fixed', [MODELS[2]!.code], 2, [
      ['tolvik', 'marlowe-tait'],
    ]);
    this.day(2, 11);
    const { parties } = await maren.call(people.listPeople, { params: this.project });
    await maren.call(transmittal.sendTransmittal, {
      params: this.project,
      body: {
        title: 'Section and elevation, accepted',
        reason: 'for information',
        message: 'Released after review 2.',
        versionIds: sections.map((code) => this.version(code, 2)),
        personIds: [],
        partyIds: parties.filter(({ code }) => code === 'OHT' || code === 'QMW').map(({ id }) => id),
        recipientsSeeEachOther: false,
      },
    });
    this.day(1, 16);
    const [sent] = await this.as('dunmarrow').call(transmittal.listTransmittals, { params: this.project });
    await this.as('dunmarrow').call(transmittal.showTransmittal, {
      params: { ...this.project, transmittalId: sent!.id },
    });
    const zip = await fetch(`${this.address}/api/projects/${this.projectId}/transmittals/${sent!.id}/zip`, {
      headers: this.as('dunmarrow').headersForFiles(),
    });
    await zip.arrayBuffer();
  }

  private async intake(): Promise<void> {
    this.day(1, 8);
    const [plan] = await sheetFiles({ number: 2 }, 'P03', this.dayAfter(0));
    const names = ['ORP-HQS-ZZ-00-D-S-101', 'ORP-HQS-BH-ZZ-X-S-0201', 'base plates new FINAL'];
    const files = names.map((code, i) => ({
      code,
      title: ['Foundation plan', 'Frame elevations', ''][i]!,
      classification: 'D-PLN',
      extension: '.pdf',
      bytes: plan!.bytes,
    }));
    await this.send('vossling', 'Structure / Drawings', files, 'S0', 'P01');
    await this.prepared();
  }

  /** Everybody was here lately. */
  private async visitOnce(): Promise<void> {
    for (const [i, person] of [...this.persons.values()].entries()) {
      this.day(i % 5, 10);
      await person.call(portfolio.showProject, { params: this.project });
    }
  }

  private async secondProject(): Promise<void> {
    this.day(8);
    await this.as('tolvik').call(portfolio.createProject, {
      body: {
        name: 'Orrin Point breakwater repair',
        number: 'OPB',
        kind: 'Harbour',
        timeZone: 'Europe/Dublin',
        finishesOn: this.dayAfter(200),
      },
    });
  }
}
