import { showSession, signOut, type Session } from '@kindred/contract/identity/identity';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { ApiProblem, call, setCsrfToken, whenSignedOut } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';
import { useLive } from '../platform/live.ts';

export const useSession = defineStore('session', () => {
  const session = ref<Session | null>(null);

  function begin(opened: Session): void {
    session.value = opened;
    setCsrfToken(opened.csrfToken);
  }

  function rename(person: Session['person']): void {
    if (session.value) session.value.person = person;
  }

  /** Whether somebody is signed in; asks the server once. */
  async function ensure(): Promise<boolean> {
    if (session.value) return true;
    try {
      begin(await call(showSession));
      return true;
    } catch (error) {
      if (error instanceof ApiProblem && error.problem.code === 'sign-in-first') return false;
      throw error;
    }
  }

  async function end(): Promise<void> {
    if (await attempt(() => call(signOut))) forget();
  }

  /** A full load of the sign-in page: nothing of the last person stays in memory. */
  function forget(): void {
    useLive().leave();
    session.value = null;
    if (location.pathname !== '/sign-in')
      location.assign(`/sign-in?then=${encodeURIComponent(location.pathname + location.search)}`);
  }
  whenSignedOut(() => session.value && forget());

  return {
    ...{ session, begin, rename, ensure, end },
    me: computed(() => session.value?.person ?? null),
    administersInstallation: computed(() => session.value?.installationAdministrator ?? false),
  };
});
