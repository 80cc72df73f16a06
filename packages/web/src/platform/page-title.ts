import { onScopeDispose, ref, watchEffect } from 'vue';

/** What the open page is about, beyond its kind; empty where it is about no one thing. */
export const pageSubject = ref('');

/** Names the thing that a page is about, in the title of the window, as long as the page is there. */
export function usePageSubject(subject: () => string | undefined): void {
  watchEffect(() => void (pageSubject.value = subject() ?? ''));
  onScopeDispose(() => void (pageSubject.value = ''));
}
