import { listUploads, type WaitingUpload } from '@kindred/contract/register/uploads';
import { atLeast } from '@kindred/core/register/folder-rights';
import { folderFor } from '@kindred/core/register/folder-for';
import { STARTER_REVISIONS } from '@kindred/core/register/revision';
import { useEventListener } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, watch, type Ref } from 'vue';
import { useNaming } from '../naming/store.ts';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { keepWritten, writtenOf } from './desk-memory.ts';
import { useFolders } from './folders-store.ts';
import type { UploadDesk } from './upload-desk.ts';
import { UploadQueue } from './upload-queue.ts';

/**
 * Files on their way in: a desk for each project. They go on while one works elsewhere in the application; what has arrived waits on
 * the server, and is taken back when the page is loaded anew.
 */
export const useUploads = defineStore('uploads', () => {
  const queue = new UploadQueue();
  const naming = useNaming();
  const folders = useFolders();
  const project = useProject();
  const desks = ref([]) as Ref<UploadDesk[]>;
  const conventionIn = (id: string) => folders.conventionIn(id);

  /** Folders that the person may deliver to. */
  const open = computed(() => folders.list.filter(({ level }) => atLeast(level, 'deliver')));
  /** Of these the one that a code names is taken: of the own team, or of none. */
  const nameable = computed(() => {
    const own = project.view?.me.teamId;
    return open.value.filter(({ teamId }) => !teamId || teamId === own || project.may('register', 'manage'));
  });
  /** The folder for what names none: the one that somebody looks at, else one of their team. */
  function folderHere(shown: string): string {
    // Without knowing whose team this is, the first folder of all would be taken.
    if (!project.view) return '';
    const own = project.view.me.teamId;
    const list = open.value;
    const here = list.find(({ id }) => id === shown);
    return (here ?? list.find(({ teamId, parentId }) => parentId && teamId === own) ?? list[0])?.id || '';
  }
  const folderOf =
    (shown: string) =>
    (code: string): string => {
      const here = folderHere(shown);
      return folderFor(code, nameable.value, conventionIn, here)?.id ?? here;
    };

  async function deskOf(projectId: string): Promise<UploadDesk> {
    // Judging names takes much code: it comes with the first file.
    const { createUploadDesk } = await import('./upload-desk.ts');
    const known = desks.value.find((desk) => desk.projectId === projectId);
    if (known) return known;
    const revisions = () => naming.naming?.revisions ?? STARTER_REVISIONS;
    const desk = createUploadDesk({ projectId, queue, conventionIn, revisions });
    desks.value.push(desk);
    return desk;
  }
  /** The desk of a project, if files are on it. */
  const deskIn = (projectId: string): UploadDesk | undefined =>
    desks.value.find((desk) => desk.projectId === projectId && desk.arrivals.length);

  const asked = new Set<string>();
  /** What was left on the server comes back to the desk; asked for once. */
  async function takeBack(projectId: string): Promise<void> {
    if (asked.has(projectId)) return;
    asked.add(projectId);
    const waiting: WaitingUpload[] = [];
    for (let after: string | null = ''; after !== null;) {
      const query = { limit: 200, ...(after && { after }) };
      const page: { items: WaitingUpload[]; next: string | null } = await call(listUploads, {
        params: { projectId },
        query,
      });
      waiting.push(...page.items);
      after = page.next;
    }
    if (waiting.length) (await deskOf(projectId)).takeBack(waiting, folderOf(''), writtenOf(projectId));
  }
  watch(
    () => project.projectId && project.may('register', 'add') && folders.loaded && naming.naming && project.projectId,
    (projectId) => projectId && void attempt(() => takeBack(projectId)),
    { immediate: true },
  );
  useEventListener('pagehide', () => {
    for (const { projectId, arrivals } of desks.value) keepWritten(projectId, arrivals);
  });

  return {
    open,
    folderHere,
    deskIn,
    /** Each goes to the folder that its code names, else to the one that somebody looks at. */
    async add(files: Iterable<File>, projectId: string, shown: string): Promise<void> {
      // The field that they were chosen in forgets them.
      const chosen = [...files];
      await attempt(async () => (await deskOf(projectId)).add(chosen, folderOf(shown)));
    },
  };
});
