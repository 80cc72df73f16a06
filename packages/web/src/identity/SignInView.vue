<script setup lang="ts">
import {
  acceptInvitation,
  createFirstPerson,
  showSignIn,
  signIn,
  signInAsDemo,
  type Session,
} from '@kindred/contract/identity/identity';
import { useQuery } from '@pinia/colada';
import { computed, reactive, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { ApiProblem, call } from '../platform/api.ts';
import { useSession } from './store.ts';

const route = useRoute();
const router = useRouter();
const session = useSession();
const { data: offer } = useQuery({ key: ['sign-in'], query: () => call(showSignIn), staleTime: 0 });
const form = reactive({ name: '', email: '', password: '' });
const problem = ref('');
const busy = ref(false);
const invitation = computed(() => (typeof route.query.invitation === 'string' ? route.query.invitation : ''));

async function enter(open: () => Promise<Session>): Promise<void> {
  busy.value = true;
  problem.value = '';
  try {
    session.begin(await open());
    const then = typeof route.query.then === 'string' && /^\/(?!\/)/.test(route.query.then) ? route.query.then : '/';
    await router.push(then);
  } catch (error) {
    problem.value =
      error instanceof ApiProblem
        ? error.problem.fields
          ? fieldSentence(error)
          : error.problem.detail
        : String(error);
  } finally {
    busy.value = false;
  }
}

function fieldSentence({ problem: { fields = [] } }: ApiProblem): string {
  return fields.map(({ path, message }) => `${path.replace('/', '')}: ${message}`).join('. ');
}

function submit(): Promise<void> {
  const { name, email, password } = form;
  if (invitation.value) return enter(() => call(acceptInvitation, { body: { key: invitation.value, password } }));
  if (offer.value?.firstPerson) return enter(() => call(createFirstPerson, { body: { name, email, password } }));
  return enter(() => call(signIn, { body: { email, password } }));
}
</script>

<template>
  <div class="desk">
    <section class="sheet">
      <header>
        <img src="/mark.svg" alt="" width="40" height="40" />
        <div>
          <h1>Kindred Sheet</h1>
          <p class="quiet">Models, drawings and what is said about them, in one project.</p>
        </div>
      </header>
      <form @submit.prevent="submit">
        <p v-if="offer?.firstPerson">This installation is empty. You are its first person and will administer it.</p>
        <p v-if="invitation">Welcome. Choose a password to begin.</p>
        <label v-if="offer?.firstPerson && !invitation" class="field"
          ><span>Your name</span><el-input v-model="form.name" name="name" autocomplete="name" required
        /></label>
        <label v-if="!invitation" class="field"
          ><span>E-mail</span><el-input v-model="form.email" name="email" type="email" autocomplete="username" required
        /></label>
        <label class="field"
          ><span>Password{{ offer?.firstPerson || invitation ? ', at least 10 characters' : '' }}</span
          ><el-input
            v-model="form.password"
            name="password"
            type="password"
            :autocomplete="invitation ? 'new-password' : 'current-password'"
            required
        /></label>
        <p v-if="problem" class="sign needs-you full" role="alert">{{ problem }}</p>
        <el-button type="primary" native-type="submit" :loading="busy">{{
          offer?.firstPerson || invitation ? 'Begin' : 'Sign in'
        }}</el-button>
      </form>
    </section>
    <section v-if="offer?.demoPeople.length && !invitation" class="people">
      <h2>This is a demo: come in as one of its people</h2>
      <div class="cards">
        <button
          v-for="person in offer.demoPeople"
          :key="person.email"
          class="card"
          :disabled="busy"
          @click="enter(() => call(signInAsDemo, { body: { email: person.email } }))"
        >
          <span class="initials" :style="{ background: person.colour }">{{ person.initials }}</span>
          <b>{{ person.name }}</b>
          <small class="quiet">{{ person.about }}</small>
        </button>
      </div>
    </section>
  </div>
</template>

<style scoped>
.desk {
  min-height: 100%;
  display: flex;
  flex-wrap: wrap;
  align-content: center;
  justify-content: center;
  gap: 48px;
  padding: 32px;
}
.sheet {
  width: 340px;
}
header {
  display: flex;
  gap: 14px;
  align-items: center;
  margin-bottom: 22px;
}
header p {
  margin: 4px 0 0;
}
.people {
  width: 620px;
  border-left: 1px solid var(--hairline);
  padding-left: 48px;
}
.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(260px, 1fr));
  margin-top: 12px;
  border-top: 1px solid var(--hairline);
}
.card {
  display: grid;
  grid-template: auto auto / 36px 1fr;
  text-align: left;
  column-gap: 8px;
  align-items: center;
  padding: 8px 6px;
  border: 0;
  border-bottom: 1px solid var(--hairline);
  background: none;
  font: inherit;
  color: inherit;
  cursor: pointer;
}
.card:hover {
  background: var(--sheet);
}
.card small {
  grid-column: 2;
}
.initials {
  grid-row: 1 / 3;
  width: 32px;
  height: 32px;
  display: grid;
  place-items: center;
  color: #fff;
  font-weight: 600;
  font-size: 12px;
  border-radius: 3px;
}
</style>
