<script setup lang="ts">
import {
  acceptInvitation,
  askForNewPassword,
  chooseNewPassword,
  confirmAddress,
  createFirstPerson,
  showSignIn,
  signIn,
  signInAsDemo,
  type Session,
} from '@kindred/contract/identity/identity';
import { useQuery } from '@pinia/colada';
import { computed, reactive, ref } from 'vue';
import { useRouter } from 'vue-router';
import { ApiProblem, call } from '../platform/api.ts';
import { listDemoPeople } from '@kindred/contract/people/people';
import { useSession } from './store.ts';
import { useRouteQuery } from '../platform/route-query.ts';

const { query } = useRouteQuery();
const router = useRouter();
const session = useSession();
const { data: offer } = useQuery({ key: ['sign-in'], query: () => call(showSignIn), staleTime: 0 });
const { data: demoPeople } = useQuery({
  key: ['demo-people'],
  query: () => call(listDemoPeople),
  enabled: () => offer.value?.demo ?? false,
});
document.title = 'Sign in · Kindred Sheet';
const form = reactive({ name: '', email: '', password: '', code: '' });
const problem = ref('');
const said = ref('');
const busy = ref(false);
/** The password was right, and the account has a second factor. */
const asksCode = ref(false);
const forgotten = ref(false);
const invitation = computed(() => query('invitation'));
const newPassword = computed(() => query('new-password'));
const chooses = computed(() => Boolean(invitation.value || newPassword.value || offer.value?.firstPerson));
const ACTION = computed(() =>
  forgotten.value ? 'Send the link' : newPassword.value ? 'Keep this password' : chooses.value ? 'Begin' : 'Sign in',
);

problem.value = query('refused');

const address = query('address');
if (address)
  void attemptTo(async () => {
    const confirmed = await call(confirmAddress, { body: { key: address } });
    said.value = `${confirmed.address} is confirmed. Sign in with it from now on.`;
    await router.replace({ query: {} });
  });

async function attemptTo(run: () => Promise<void>): Promise<void> {
  busy.value = true;
  problem.value = '';
  try {
    await run();
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    asksCode.value ||= error.problem.code === 'second-factor';
    problem.value = error.problem.detail;
  } finally {
    busy.value = false;
  }
}
const enter = (open: () => Promise<Session>): Promise<void> =>
  attemptTo(async () => {
    session.begin(await open());
    await router.push(/^\/(?!\/)/.test(query('then')) ? query('then') : '/');
  });

function submit(): Promise<void> {
  const { name, email, password, code } = form;
  if (forgotten.value)
    return attemptTo(async () => {
      await call(askForNewPassword, { body: { email } });
      said.value = `If ${email} belongs to an account, a link is on its way. It is good for an hour.`;
      forgotten.value = false;
    });
  if (newPassword.value) return enter(() => call(chooseNewPassword, { body: { key: newPassword.value, password } }));
  if (invitation.value) return enter(() => call(acceptInvitation, { body: { key: invitation.value, password } }));
  if (offer.value?.firstPerson) return enter(() => call(createFirstPerson, { body: { name, email, password } }));
  return enter(() => call(signIn, { body: { email, password, ...(asksCode.value && { code: code.trim() }) } }));
}
</script>

<template>
  <main class="desk">
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
        <p v-if="newPassword">Choose a new password. Whatever else is signed in as you ends, tokens too.</p>
        <p v-if="forgotten">Type your address: a link for choosing a new password goes there.</p>
        <label v-if="offer?.firstPerson && !invitation" class="field"
          ><span>Your name</span><el-input v-model="form.name" name="name" autocomplete="name" required
        /></label>
        <label v-if="!invitation && !newPassword" class="field"
          ><span>E-mail</span><el-input v-model="form.email" name="email" type="email" autocomplete="username" required
        /></label>
        <label v-if="!forgotten" class="field"
          ><span>Password{{ chooses ? ', at least 10 characters' : '' }}</span
          ><el-input
            v-model="form.password"
            name="password"
            type="password"
            :autocomplete="chooses ? 'new-password' : 'current-password'"
            required
        /></label>
        <label v-if="asksCode" class="field"
          ><span>Code of your authenticator, or one of your codes on paper</span
          ><el-input v-model="form.code" name="code" autocomplete="one-time-code" required
        /></label>
        <p v-if="problem" class="sign needs-you full" role="alert">{{ problem }}</p>
        <p v-if="said" class="sign action full" role="status">{{ said }}</p>
        <div class="row">
          <el-button type="primary" native-type="submit" :loading="busy">{{ ACTION }}</el-button>
          <button
            v-if="!chooses"
            type="button"
            class="button-link"
            @click="((forgotten = !forgotten), (problem = ''), (said = ''))"
          >
            {{ forgotten ? 'Back to signing in' : 'Forgotten your password?' }}
          </button>
        </div>
      </form>
      <p v-if="offer?.provider && !newPassword && !offer.firstPerson" class="provider">
        <a class="el-button" :href="`/api/sign-in/provider?then=${encodeURIComponent(query('then') || '/')}`"
          >Sign in with {{ offer.provider }}</a
        >
      </p>
    </section>
    <section v-if="demoPeople?.length && !invitation && !newPassword" class="people">
      <h2>This is a demo: come in as one of its people</h2>
      <div class="cards">
        <button
          v-for="person in demoPeople"
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
  </main>
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
.provider {
  margin: 12px 0 0;
}
.provider a {
  text-decoration: none;
}
</style>
