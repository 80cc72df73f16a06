import {
  cancelLongJob,
  downloadLongJob,
  listLongJobs,
  tryLongJobAgain,
  type LongJob,
} from '@kindred/contract/platform/jobs';
import { useQuery } from '@pinia/colada';
import { defineStore } from 'pinia';
import { computed, watch } from 'vue';
import { addressOf, call } from './api.ts';
import { attempt, sayDone, sayProblem } from './say.ts';
import { settings } from './settings.ts';

const runs = ({ status }: LongJob): boolean => status === 'waiting' || status === 'running';

/** Long work that the person started in this project: where it stands, and what it made. */
export const useJobs = defineStore('jobs', () => {
  const { data, refetch } = useQuery({
    key: () => [settings.projectId, 'job'],
    query: () => call(listLongJobs, { params: { projectId: settings.projectId } }),
    enabled: () => settings.projectId !== '',
  });
  const jobs = computed(() => data.value ?? []);
  const running = computed(() => jobs.value.filter(runs));
  /** Those whose end this page tells. */
  const followed = new Set<string>();
  /** Those whose end somebody waits for. */
  const awaited = new Map<string, (ended: LongJob) => void>();

  watch(jobs, (list) => {
    for (const job of list) {
      if (runs(job)) continue;
      awaited.get(job.id)?.(job);
      awaited.delete(job.id);
      if (followed.has(job.id)) end(job);
    }
  });
  function end(job: LongJob): void {
    followed.delete(job.id);
    if (job.status === 'failed') return sayProblem(new Error(`${job.name}: ${job.note}`));
    if (job.status !== 'done') return;
    sayDone(`${job.name} is ready.`);
    if (job.fileName) download(job);
  }
  const ofJob = ({ id }: LongJob) => ({ projectId: settings.projectId, jobId: id });
  function download(job: LongJob): void {
    const link = document.createElement('a');
    link.href = addressOf(downloadLongJob, ofJob(job));
    link.download = job.fileName ?? '';
    link.click();
  }
  return {
    jobs,
    running,
    download,
    /** Says when it has ended, and hands over its file. */
    async follow(job: LongJob): Promise<void> {
      followed.add(job.id);
      await refetch();
    },
    /** How it ended; nobody is told. */
    async ended(job: LongJob): Promise<LongJob> {
      const end = new Promise<LongJob>((resolve) => awaited.set(job.id, resolve));
      await refetch();
      return end;
    },
    async cancel(job: LongJob): Promise<void> {
      await attempt(() => call(cancelLongJob, { params: ofJob(job) }));
      await refetch();
    },
    async tryAgain(job: LongJob): Promise<void> {
      followed.add(job.id);
      await attempt(() => call(tryLongJobAgain, { params: ofJob(job) }));
      await refetch();
    },
  };
});
