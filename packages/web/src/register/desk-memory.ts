/** What was written of files that have arrived: kept by the browser while the files wait on the server. */
import { useLocalStorage } from '@vueuse/core';
import type { Arrival } from './arrival.ts';

const WRITTEN = [
  'folderId',
  'code',
  'title',
  'status',
  'revision',
  'classification',
  'description',
  'answers',
] as const;
type Written = Partial<Pick<Arrival, (typeof WRITTEN)[number]>>;
/** Beyond that many a browser has no room. */
const MOST = 2000;

const memoryOf = (projectId: string) =>
  useLocalStorage<Record<string, Written>>(`desk-${projectId}`, {}, { flush: 'sync' });

export function keepWritten(projectId: string, arrivals: readonly Arrival[]): void {
  const arrived = arrivals.filter(({ state }) => state === 'arrived').slice(0, MOST);
  memoryOf(projectId).value = Object.fromEntries(
    arrived.map((arrival) => [arrival.uploadId, Object.fromEntries(WRITTEN.map((key) => [key, arrival[key]]))]),
  );
}

export function writtenOf(projectId: string): (uploadId: string) => Written | undefined {
  const written = memoryOf(projectId).value;
  return (uploadId) => written[uploadId];
}
