/** A drawing on which people mark, for tests of markups. */
import { PDFDocument } from '@cantoo/pdf-lib';
import { listLongJobs } from '@kindred/contract/platform/jobs';
import { addMarkup, publishMarkups, startMarkupExport, type Markup } from '@kindred/contract/markup/markup';
import type { Body } from '@kindred/contract/platform/operation';
import { expect, vi } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { deliverFile, prepared, type TestProject } from './harness.ts';

export const CODE = 'ORP-TVA-ZZ-00-D-A-0101.pdf';

export async function sheetsPdf(pages = 2): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  for (let i = 0; i < pages; i++)
    pdf.addPage([842, 595]).drawLine({ start: { x: 50, y: 50 }, end: { x: 250, y: 50 + i } });
  return pdf.save();
}

export async function drawing(project: TestProject, author: ApiPerson, bytes?: Uint8Array, code = CODE) {
  const file = await deliverFile(project, author, 'Architecture / Drawings', code, bytes ?? (await sheetsPdf()));
  await prepared(project, author, file.containerId);
  return file;
}

export type ToAdd = Partial<Body<typeof addMarkup>>;
export const cloud = (over: ToAdd = {}): Body<typeof addMarkup> => ({
  page: 1,
  shape: {
    kind: 'cloud',
    points: [
      [100, 100],
      [200, 160],
    ],
  },
  text: 'Widen the door',
  status: 'act',
  ...over,
});

export async function publish(
  person: ApiPerson,
  params: { projectId: string; versionId: string },
  over: ToAdd = {},
): Promise<Markup> {
  const draft = await person.call(addMarkup, { params, body: cloud(over) });
  const [published] = await person.call(publishMarkups, { params, body: { markupIds: [draft.id] } });
  return published!;
}

/** Waits for the end of a job that a person started; answers its note. */
export async function ended(
  person: ApiPerson,
  projectId: string,
  id: string,
  status: 'done' | 'failed' = 'done',
): Promise<string> {
  return vi.waitFor(
    async () => {
      const jobs = await person.call(listLongJobs, { params: { projectId } });
      const job = jobs.find((one) => one.id === id)!;
      expect(job.status).toBe(status);
      return job.note;
    },
    { timeout: 120_000, interval: 100 },
  );
}

export async function exported(
  person: ApiPerson,
  address: string,
  params: { projectId: string; versionId: string },
  body: Body<typeof startMarkupExport>,
): Promise<Uint8Array> {
  const { id } = await person.call(startMarkupExport, { params, body });
  return made(person, address, params.projectId, id);
}

/** The file that a job made, once it has. */
export async function made(person: ApiPerson, address: string, projectId: string, id: string): Promise<Uint8Array> {
  await ended(person, projectId, id);
  const answer = await fetch(`${address}/api/projects/${projectId}/jobs/${id}/file`, {
    headers: person.headersForFiles(),
  });
  return new Uint8Array(await answer.arrayBuffer());
}
