import { listCurrentVersions } from '@kindred/contract/register/register';
import { useQuery } from '@pinia/colada';
import { computed, watch, type Ref } from 'vue';
import { usePreference } from '../identity/preferences.ts';
import { call } from '../platform/api.ts';
import { settings } from '../platform/settings.ts';

/** Whether somebody wants newer versions at once, wherever one has something open. */
export const useFollowNewer = () => usePreference('follow-newer-versions', false);

/** Newer versions of what is open: offered, or taken at once by whoever wants that. Asked anew whenever the register changes. */
export function useNewerVersions(open: Ref<string[]>, take: (versionIds: string[]) => void) {
  const follow = useFollowNewer();
  const { data } = useQuery({
    key: () => [settings.projectId, 'container', 'current', open.value.join()],
    query: () =>
      call(listCurrentVersions, {
        params: { projectId: settings.projectId },
        query: { versionIds: open.value.join() },
      }),
    enabled: () => open.value.length > 0,
  });
  const newer = computed(() =>
    (data.value ?? []).filter(
      ({ versionId, current }) => open.value.includes(versionId) && current.versionId !== versionId,
    ),
  );
  function takeAll(): void {
    const next = new Map(newer.value.map(({ versionId, current }) => [versionId, current.versionId]));
    take(open.value.map((id) => next.get(id) ?? id));
  }
  let seen = false;
  watch(newer, (list) => {
    // What an address names is shown as it was; only what arrives afterwards is followed.
    if (seen && follow.value && list.length) takeAll();
    seen = true;
  });
  return { newer, follow, takeAll };
}
