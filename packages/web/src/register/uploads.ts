import { STARTER_REVISIONS } from '@kindred/core/register/revision';
import { defineStore } from 'pinia';
import { computed, ref, type Ref } from 'vue';
import { useNaming } from '../naming/store.ts';
import { useFolders } from './folders-store.ts';
import { attempt } from '../platform/say.ts';
import type { UploadDesk } from './upload-desk.ts';
import { UploadQueue } from './upload-queue.ts';

/** Files on their way in: a desk for each project and folder. They go on while one works elsewhere in the application. */
export const useUploads = defineStore('uploads', () => {
  const queue = new UploadQueue();
  const naming = useNaming();
  const folders = useFolders();
  const desks = ref([]) as Ref<UploadDesk[]>;
  const open = computed(() => desks.value.filter(({ arrivals }) => arrivals.length));

  async function deskOf(projectId: string, folderId: string): Promise<UploadDesk> {
    // Judging names takes much code: it comes with the first file.
    const { createUploadDesk } = await import('./upload-desk.ts');
    const known = desks.value.find((desk) => desk.projectId === projectId && desk.folderId === folderId);
    if (known) return known;
    const desk = createUploadDesk({
      projectId,
      folderId,
      queue,
      conventionIn: (id) => folders.conventionIn(id),
      revisions: () => naming.naming?.revisions ?? STARTER_REVISIONS,
    });
    desks.value.push(desk);
    return desk;
  }

  return {
    /** Those of a project that hold files. */
    desksIn: (projectId: string): UploadDesk[] => open.value.filter((desk) => desk.projectId === projectId),
    async add(files: Iterable<File>, projectId: string, folderId: string): Promise<void> {
      // The field that they were chosen in forgets them.
      const chosen = [...files];
      await attempt(async () => (await deskOf(projectId, folderId)).add(chosen));
    },
  };
});
