/** Answers an issue with words, with a file that is delivered for it, or with both. */
import { commentIssue } from '@kindred/contract/issues/comments';
import { changeIssue, listIssues, showIssue } from '@kindred/contract/issues/issues';
import { deliverFiles, findPlace, folderOfCode, known, type Place } from './agent.ts';
import { UsageError } from './problem.ts';

type Project = Pick<Place, 'client' | 'projectId'>;

export async function answerIssue(
  { client, projectId }: Project,
  number: number,
  words: string,
  file: string | undefined,
  folder: string | undefined,
): Promise<{ data: unknown; text: string }> {
  const { items } = await client.call(listIssues, { params: { projectId }, query: { q: `#${number}`, limit: 200 } });
  const issue = items.find((one) => one.number === number);
  if (!issue) throw new UsageError(`There is no issue ${number}`, 'See ks issues for those there are.');
  const params = { projectId, issueId: issue.id };
  const delivered = file ? await deliverAnswer({ client, projectId }, number, file, folder) : undefined;
  if (words) await client.call(commentIssue, { params, body: { text: words } });
  const { issue: now, may } = await client.call(showIssue, { params });
  const answered = may.includes('answer')
    ? await client.call(changeIssue, { params, body: { edition: now.edition, action: 'answer', reason: words } })
    : now;
  const withFile = delivered ? ` with version ${delivered.version} of ${delivered.code}` : '';
  return {
    data: { ...answered, ...(delivered && { delivered }) },
    text: `Issue ${number} is ${answered.status}${withFile}.`,
  };
}

async function deliverAnswer({ client, projectId }: Project, number: number, file: string, folder: string | undefined) {
  const place = folder
    ? await findPlace(client, projectId, folder)
    : { client, projectId, folderId: await folderOfCode(client, projectId, file) };
  const onto = (await known(place, file))?.versionNumber ?? 0;
  const [delivered] = await deliverFiles(place, [{ path: file, onto }], {}, true, undefined, undefined, [number]);
  return delivered!;
}
