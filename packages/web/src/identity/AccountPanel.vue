<script setup lang="ts">
/** The password of the account, where it is signed in, and its second factor. */
import {
  changeAddress,
  changeName,
  changePassword,
  endAllOthers,
  endSession,
  listSessions,
} from '@kindred/contract/identity/identity';
import { useQuery } from '@pinia/colada';
import dayjs from 'dayjs';
import { reactive, ref } from 'vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { deviceName } from './device-name.ts';
import SecondFactorDialog from './SecondFactorDialog.vue';
import { useSession } from './store.ts';

const { data: account, refetch } = useQuery({ key: ['sessions'], query: () => call(listSessions), staleTime: 0 });
const session = useSession();
const own = reactive({ name: session.me?.name ?? '', address: '', password: '' });
const form = reactive({ current: '', password: '' });
const factor = ref(false);
const emit = defineEmits<{ ended: [] }>();

async function change(): Promise<void> {
  const done = await attempt(() => call(changePassword, { body: { ...form } }));
  if (!done) return;
  form.current = form.password = '';
  sayDone('Your password is changed. Your other sessions have ended.');
  await refetch();
}
async function rename(): Promise<void> {
  const name = own.name.trim();
  if (!(await attempt(async () => session.rename(await call(changeName, { body: { name } }))))) return;
  sayDone(`Your name is ${name}, in all your projects.`);
}
async function move(): Promise<void> {
  const { address, password } = own;
  if (!(await attempt(() => call(changeAddress, { body: { address, password } })))) return;
  Object.assign(own, { address: '', password: '' });
  sayDone(`A link went to ${address}. Once it was opened, you sign in with that address.`);
}
async function end(sessionId: string): Promise<void> {
  await attempt(() => call(endSession, { params: { sessionId } }));
  await refetch();
}
async function endAll(): Promise<void> {
  if (!(await attempt(() => call(endAllOthers)))) return;
  sayDone('All other sessions and all tokens have ended.');
  emit('ended');
  await refetch();
}
const when = (moment: string): string => dayjs(moment).format('D MMM YYYY, HH:mm');
</script>

<template>
  <h2>Name and address</h2>
  <form class="row own" @submit.prevent="rename">
    <label class="field"><span>Name</span><el-input v-model="own.name" maxlength="100" autocomplete="name" /></label>
    <el-button native-type="submit" :disabled="!own.name.trim() || own.name.trim() === session.me?.name"
      >Correct the name</el-button
    >
  </form>
  <form class="row own" @submit.prevent="move">
    <label class="field"
      ><span>Another address instead of {{ session.me?.email }}</span
      ><el-input v-model="own.address" type="email" autocomplete="email"
    /></label>
    <label class="field"
      ><span>Your password</span><el-input v-model="own.password" type="password" autocomplete="current-password"
    /></label>
    <el-button native-type="submit" :disabled="!own.address.trim() || !own.password">Send the link there</el-button>
  </form>
  <h2>Password</h2>
  <form class="password" @submit.prevent="change">
    <label class="field"
      ><span>Current password</span
      ><el-input v-model="form.current" type="password" autocomplete="current-password" name="current"
    /></label>
    <label class="field"
      ><span>New password, at least 10 characters</span
      ><el-input v-model="form.password" type="password" autocomplete="new-password" name="new"
    /></label>
    <el-button type="primary" native-type="submit" :disabled="!form.current || form.password.length < 10"
      >Change password</el-button
    >
  </form>
  <h2>Second factor</h2>
  <p class="row">
    <span>{{
      account?.secondFactor
        ? 'On: signing in asks for a code of your authenticator.'
        : 'Off. With it, whoever learns your password still cannot sign in.'
    }}</span>
    <el-button size="small" @click="factor = true">{{ account?.secondFactor ? 'Turn off' : 'Turn on' }}</el-button>
  </p>
  <h2>Where you are signed in</h2>
  <table class="plain-table" style="max-width: 700px">
    <thead>
      <tr>
        <th>Device</th>
        <th>Since</th>
        <th>Last used</th>
        <th></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="one in account?.sessions" :key="one.id">
        <td>{{ deviceName(one.device) }}</td>
        <td>{{ when(one.createdAt) }}</td>
        <td>{{ one.current ? 'now, here' : when(one.lastUsedAt) }}</td>
        <td class="right">
          <button v-if="!one.current" class="button-link" @click="end(one.id)">End this session</button>
        </td>
      </tr>
    </tbody>
  </table>
  <p><el-button size="small" @click="endAll">End all others, and all tokens</el-button></p>
  <SecondFactorDialog v-if="factor" :on="account?.secondFactor ?? false" @close="((factor = false), refetch())" />
</template>

<style scoped>
.own {
  flex-wrap: wrap;
  align-items: end;
}
.own .el-button {
  margin-bottom: 10px;
}
.password {
  max-width: 340px;
  margin-bottom: 18px;
}
</style>
