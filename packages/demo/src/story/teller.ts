import * as folders from '@kindred/contract/register/folders';
import * as register from '@kindred/contract/register/register';
import { ApiPerson } from '../client.ts';

export interface FileToSend {
  code: string;
  extension: string;
  title: string;
  bytes: Uint8Array;
  classification: string;
}

/** So many files a person sends at once; the server takes twice as many. */
const AT_ONCE = 6;

const surnameIn = (name: string): string => name.split(' ').at(-1)!.toLowerCase();

/** Whoever tells a chapter: the people of the story, its days, and what they do again and again, by the public API. */
export class Teller {
  private readonly persons = new Map<string, ApiPerson>();
  private readonly ids = new Map<string, string>();
  private readonly containers = new Map<string, { containerId: string; versionIds: string[] }>();
  private readonly folders = new Map<string, string>();
  private projectId = '';
  private today = new Date();

  constructor(
    readonly address: string,
    private readonly clockSecret: string,
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

  /** Somebody who can act from now on, as their surname. */
  enter(name: string): ApiPerson {
    const person = new ApiPerson(this.address, this.clockSecret);
    person.moment = this.today;
    this.persons.set(surnameIn(name), person);
    return person;
  }

  know(name: string, id: string): void {
    this.ids.set(surnameIn(name), id);
  }

  /** All that happens from now on happens in this project. */
  async open(projectId: string): Promise<void> {
    this.projectId = projectId;
    await this.readFolders();
  }

  async readFolders(): Promise<void> {
    const [anybody] = this.persons.values();
    for (const { id, path } of await anybody!.call(folders.listFolders, { params: this.project }))
      this.folders.set(path, id);
  }

  everybody(): ApiPerson[] {
    return [...this.persons.values()];
  }

  as(surname: string): ApiPerson {
    return this.persons.get(surname)!;
  }

  dayAfter(days: number): string {
    return new Date(this.today.getTime() + days * 86_400_000).toISOString().slice(0, 10);
  }

  folder(path: string): string {
    return this.folders.get(path)!;
  }

  personId(surname: string): string {
    return this.ids.get(surname)!;
  }

  async send(surname: string, folder: string, files: FileToSend[], status: string, revision: string): Promise<void> {
    const api = this.as(surname);
    const uploads: string[] = [];
    for (let i = 0; i < files.length; i += AT_ONCE)
      uploads.push(
        ...(await Promise.all(
          files
            .slice(i, i + AT_ONCE)
            .map(({ code, extension, bytes }) => api.upload(this.projectId, code + extension, bytes)),
        )),
      );
    const delivered = await api.call(register.deliver, {
      params: this.project,
      body: {
        folderId: this.folder(folder),
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

  container(code: string): string {
    return this.containers.get(code)!.containerId;
  }

  /** The id of a version of a container, by its code and number. */
  version(code: string, number: number): string {
    return this.containers.get(code)!.versionIds[number - 1]!;
  }

  /** The id of the last version that was delivered. */
  latest(code: string): string {
    return this.containers.get(code)!.versionIds.at(-1)!;
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
}
