import type { ApiPerson } from '../client.ts';

export interface FileToSend {
  code: string;
  extension: string;
  title: string;
  bytes: Uint8Array;
  classification: string;
}

/** Whoever tells a chapter: the people of the story, its days, and what they do again and again. */
export interface Teller {
  readonly address: string;
  readonly project: { projectId: string };
  /** All people now live on this day, `days` before today. */
  day(days: number, hour?: number): void;
  dayAfter(days: number): string;
  as(surname: string): ApiPerson;
  /** The id of a version of a container, by its code and number. */
  version(code: string, number: number): string;
  send(surname: string, folder: string, files: FileToSend[], status: string, revision: string): Promise<void>;
  move(surname: string, code: string, action: 'share' | 'publish', shareSetId?: string): Promise<void>;
  prepared(): Promise<void>;
}
