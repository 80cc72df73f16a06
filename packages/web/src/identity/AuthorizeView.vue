<script setup lang="ts">
/** A program asks to act in somebody's name: they let it in, or not. */
import { letProgramIn, listPrograms } from '@kindred/contract/identity/programs';
import { useQuery } from '@pinia/colada';
import { computed, ref } from 'vue';
import { call } from '../platform/api.ts';
import { usePageSubject } from '../platform/page-title.ts';
import { useRouteQuery } from '../platform/route-query.ts';
import { attempt } from '../platform/say.ts';
import { useSession } from './store.ts';

const { query } = useRouteQuery();
const session = useSession();
const { data: programs } = useQuery({ key: ['programs'], query: () => call(listPrograms) });
const program = computed(() => programs.value?.find(({ id }) => id === query('client_id')));
const redirectUri = computed(() => query('redirect_uri') || program.value?.redirectUris[0] || '');
const problem = computed(() => {
  if (!programs.value) return '';
  if (!program.value) return 'No program with this name is registered here. Nothing was given to anybody.';
  if (query('response_type') !== 'code') return 'The program asks in a way that is not known here: only by a code.';
  if (query('code_challenge') && query('code_challenge_method') !== 'S256')
    return 'The program secures its question in a way that is not known here: only by S256.';
  if (!program.value.redirectUris.includes(redirectUri.value))
    return `${program.value.name} is not registered with the address that it wants to be led to.`;
  return '';
});
usePageSubject(() => program.value && `${program.value.name} asks to be let in`);
const host = computed(() => (redirectUri.value ? new URL(redirectUri.value).host : ''));
const busy = ref(false);
async function letIn(): Promise<void> {
  busy.value = true;
  await attempt(async () => {
    const { redirect } = await call(letProgramIn, {
      params: { programId: program.value!.id },
      body: {
        redirectUri: redirectUri.value,
        ...(query('state') && { state: query('state') }),
        ...(query('code_challenge') && { codeChallenge: query('code_challenge') }),
      },
    });
    window.location.assign(redirect);
  });
  busy.value = false;
}
function refuse(): void {
  const back = new URL(redirectUri.value);
  back.searchParams.set('error', 'access_denied');
  if (query('state')) back.searchParams.set('state', query('state'));
  window.location.assign(back.href);
}
</script>

<template>
  <main class="ask">
    <section>
      <h1>{{ program ? `${program.name} wants to act in your name` : 'A program asks to be let in' }}</h1>
      <p v-if="problem" class="sign needs-you full" role="alert">{{ problem }}</p>
      <template v-else-if="program">
        <p>
          You are {{ session.me?.name }}, {{ session.me?.email }}. What it does counts as done by you, with your rights,
          in all your projects, until you remove its token under <b>Me, my mail, my tokens</b>.
        </p>
        <p class="quiet">It is led back to {{ host }}.</p>
        <div class="row">
          <el-button @click="refuse">Do not let it in</el-button>
          <el-button type="primary" :loading="busy" @click="letIn">Let it in</el-button>
        </div>
      </template>
    </section>
  </main>
</template>

<style scoped>
.ask {
  min-height: 100%;
  display: grid;
  place-items: center;
  padding: 20px;
}
section {
  max-width: 460px;
  padding: 24px;
  border: 1px solid var(--hairline);
  background: var(--sheet);
}
h1 {
  margin-bottom: 12px;
}
</style>
