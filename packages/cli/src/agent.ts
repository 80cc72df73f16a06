/** What the agent of an author does at the API: finds its project and folder, delivers files. */
import { withNatives } from '@kindred/core/register/file-pair';
import { listProjects } from '@kindred/contract/portfolio/portfolio';
import { listFolders } from '@kindred/contract/register/folders';
import { deliver, lookUpCodes } from '@kindred/contract/register/register';
import { splitFileName } from '@kindred/core/naming/file-name';
import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { ApiClient } from './api-client.ts';
import { UsageError } from './problem.ts';

export interface Place {
  client: ApiClient;
  projectId: string;
  folderId: string;
}

/** `project`: its id, number or name; `folder`: its path, as in “Architecture / Models”. */
export async function findPlace(client: ApiClient, project: string, folder: string): Promise<Place> {
  const projectId = await findProject(client, project);
  const folders = await client.call(listFolders, { params: { projectId } });
  const wanted = normalPath(folder);
  const found = folders.find((one) => one.id === folder || normalPath(one.path) === wanted);
  if (!found)
    throw new UsageError(
      `There is no folder “${folder}”`,
      `Folders that you may see: ${folders.map((one) => one.path).join(' · ')}`,
    );
  return { client, projectId, folderId: found.id };
}

export async function findProject(client: ApiClient, project: string): Promise<string> {
  const projects = await client.call(listProjects);
  const found = projects.find(({ id, number, name }) => [id, number, name].includes(project));
  if (!found)
    throw new UsageError(
      `There is no project “${project}”`,
      `Your projects: ${projects.map(({ number, name }) => `${number} ${name}`).join(' · ') || 'none'}`,
    );
  return found.id;
}

const normalPath = (folder: string): string =>
  folder
    .split('/')
    .map((part) => part.trim().toLowerCase())
    .join('/');

export const codeOf = (file: string): string => splitFileName(path.basename(file)).stem.normalize('NFC');

export async function hashFile(file: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(file), hash);
  return hash.digest('hex');
}

export interface Metadata {
  status?: string;
  revision?: string;
  title?: string;
  classification?: string;
  description?: string;
}

export interface Delivered {
  file: string;
  code: string;
  version: number;
  conflicting: boolean;
  atIntake: boolean;
}

/** Delivers files together, all or none. `onto`: the version that each was made from, where that is known. */
export async function deliverFiles(
  { client, projectId, folderId }: Place,
  files: { path: string; onto?: number }[],
  metadata: Metadata,
  strict: boolean,
  progress: (file: string, sent: number) => void = () => undefined,
  signal?: AbortSignal,
  answers: readonly number[] = [],
): Promise<Delivered[]> {
  const uploads = new Map<string, string>();
  for (const { path: file } of files)
    uploads.set(file, await client.upload(projectId, file, (sent) => progress(file, sent), signal));
  const pairs = withNatives(
    files,
    ({ path: file }) => codeOf(file),
    ({ path: file }) => path.basename(file),
  );
  const answer = await client.call(deliver, {
    params: { projectId },
    body: {
      folderId,
      strict,
      files: pairs.map(({ file: { path: file, onto }, natives }) => ({
        uploadId: uploads.get(file)!,
        code: codeOf(file),
        ...metadata,
        ...(onto !== undefined && { onto }),
        ...(answers.length && { answers: [...answers] }),
        ...(natives.length && { nativeUploadIds: natives.map((native) => uploads.get(native.path)!) }),
      })),
    },
  });
  return answer.files.flatMap(({ versionNumber, conflicting, atIntake }, i) => {
    const { file, natives } = pairs[i]!;
    const about = { code: codeOf(file.path), version: versionNumber, conflicting, atIntake };
    return [file, ...natives].map((one) => ({ file: one.path, ...about }));
  });
}

/** The folder that the file's code lies in already. */
export async function folderOfCode(client: ApiClient, projectId: string, file: string): Promise<string> {
  const [one] = await client.call(lookUpCodes, { params: { projectId }, body: { codes: [codeOf(file)] } });
  if (!one)
    throw new UsageError(
      `${codeOf(file)} is not in the register yet`,
      'Say with --folder which folder it shall go to, as in --folder "Architecture / Drawings".',
    );
  return one.folderId;
}

/** What the register knows of a file's code: its newest version, and the hash of that. */
export async function known({ client, projectId }: Place, file: string) {
  const [one] = await client.call(lookUpCodes, { params: { projectId }, body: { codes: [codeOf(file)] } });
  return one;
}
