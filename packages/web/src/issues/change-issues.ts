/** Many issues are changed at once, and can be put back as they were. */
import { changeIssues, type Issue } from '@kindred/contract/issues/issues';
import type { Body } from '@kindred/contract/platform/operation';
import { counted } from '@kindred/words/sentence';
import { useQueryCache } from '@pinia/colada';
import { call } from '../platform/api.ts';
import { attempt, sayProblem, sayUndoable } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';

type Change = Body<typeof changeIssues>['changes'][number];
export type IssueChanges = Omit<Change, 'issueId' | 'edition'>;
const AT_ONCE = 200;

/** What puts an issue back as it was, of the fields that were changed; a step that was taken is not a field. */
export function changesBack(
  before: Issue,
  { action: _action, reason: _reason, ...fields }: IssueChanges,
): IssueChanges {
  void [_action, _reason];
  const { responsible, verifier, title, description, type, priority, dueOn, labels } = before;
  const was: IssueChanges = {
    ...{ title, description, type, priority, dueOn, labels, verifierId: verifier?.id ?? null },
    responsible: responsible && { kind: responsible.kind, id: responsible.id },
  };
  return Object.fromEntries(Object.keys(fields).map((field) => [field, was[field as keyof IssueChanges]]));
}

export function useChangeIssues() {
  const project = useProject();
  const cache = useQueryCache();
  async function send(changes: Change[]): Promise<{ changed: Issue[]; problems: string[] }> {
    const changed: Issue[] = [];
    const problems: string[] = [];
    for (let i = 0; i < changes.length; i += AT_ONCE) {
      const body = { changes: changes.slice(i, i + AT_ONCE) };
      for (const { issue, problem } of await call(changeIssues, { params: project.params, body }))
        if (issue) changed.push(issue);
        else problems.push(problem);
    }
    await cache.invalidateQueries({ key: [project.projectId, 'issue'] });
    return { changed, problems };
  }
  /** Answers those that were changed, as they are now. */
  return async (issues: readonly Issue[], wanted: (issue: Issue) => IssueChanges): Promise<Issue[]> => {
    let done: Issue[] = [];
    await attempt(async () => {
      const { changed, problems } = await send(
        issues.map((issue) => ({ issueId: issue.id, edition: issue.edition, ...wanted(issue) })),
      );
      done = changed;
      const again = new Map(issues.map((issue) => [issue.id, issue]));
      const back = changed.flatMap(({ id, edition }) => {
        const fields = changesBack(again.get(id)!, wanted(again.get(id)!));
        return Object.keys(fields).length ? [{ issueId: id, edition, ...fields }] : [];
      });
      if (changed.length && back.length)
        sayUndoable(`${counted(changed.length, 'issue')} changed.`, () => void attempt(() => send(back)));
      if (problems.length)
        sayProblem(
          new Error(`${counted(problems.length, 'issue')} stayed as it was: ${[...new Set(problems)].join(' ')}`),
        );
    });
    return done;
  };
}
