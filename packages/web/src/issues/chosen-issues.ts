/** Issues that are ticked, with what they say now: what is changed of them can be put back. */
import type { Issue } from '@kindred/contract/issues/issues';
import { computed, shallowReactive } from 'vue';

export function useChosenIssues() {
  const byId = shallowReactive(new Map<string, Issue>());
  return {
    list: computed(() => [...byId.values()]),
    has: (id: string): boolean => byId.has(id),
    toggle(issue: Issue): void {
      if (!byId.delete(issue.id)) byId.set(issue.id, issue);
    },
    /** All of these, or none of them where all are chosen already. */
    toggleAll(issues: readonly Issue[]): void {
      const all = issues.every(({ id }) => byId.has(id));
      for (const issue of issues)
        if (all) byId.delete(issue.id);
        else byId.set(issue.id, issue);
    },
    clear: (): void => byId.clear(),
  };
}
export type ChosenIssues = ReturnType<typeof useChosenIssues>;
