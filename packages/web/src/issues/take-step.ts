/** Asks why, and takes a step of an issue. */
import { changeIssue, type Issue } from '@kindred/contract/issues/issues';
import type { IssueAction } from '@kindred/core/issues/states';
import { ruleOf } from '@kindred/core/issues/settings';
import { useQueryCache } from '@pinia/colada';
import { ElMessageBox } from 'element-plus';
import { call } from '../platform/api.ts';
import { answered, attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { STEP_WORDS } from './signs.ts';
import { useIssueSettings } from './store.ts';

export function useTakeStep() {
  const project = useProject();
  const cache = useQueryCache();
  const kept = useIssueSettings();
  /** Answers whether it was taken. */
  return async (issue: Issue, action: IssueAction): Promise<boolean> => {
    const { reason: needed } = ruleOf(kept.settings, issue.type).steps[action];
    const answer = await answered(
      ElMessageBox.prompt(needed ? 'Why' : 'Why, in a line (may stay empty)', STEP_WORDS[action], {
        confirmButtonText: STEP_WORDS[action],
        cancelButtonText: 'Cancel',
        ...(needed && { inputPattern: /\S/, inputErrorMessage: 'This project wants a reason for it.' }),
      }),
    );
    if (!answer) return false;
    const done = await attempt(() =>
      call(changeIssue, {
        params: { ...project.params, issueId: issue.id },
        body: { edition: issue.edition, action, reason: answer.value ?? '' },
      }),
    );
    await cache.invalidateQueries({ key: [project.projectId, 'issue'] });
    return done;
  };
}
