<script setup lang="ts">
import { createToken, deleteToken, listTokens } from '@kindred/contract/identity/identity';
import { useQuery } from '@pinia/colada';
import dayjs from 'dayjs';
import { ref } from 'vue';
import AccountPanel from './AccountPanel.vue';
import MailChoicesPanel from './MailChoicesPanel.vue';
import ProgramsPanel from './ProgramsPanel.vue';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';
import { useSession } from './store.ts';

const session = useSession();
const { data: tokens, refetch } = useQuery({ key: ['tokens'], query: () => call(listTokens) });
const name = ref('');
const secret = ref('');

async function create(): Promise<void> {
  await attempt(async () => {
    secret.value = (await call(createToken, { body: { name: name.value } })).secret;
    name.value = '';
    await refetch();
  });
}
async function remove(tokenId: string): Promise<void> {
  await attempt(() => call(deleteToken, { params: { tokenId } }));
  await refetch();
}
const date = (moment: string | null): string => (moment ? dayjs(moment).format('D MMM YYYY') : 'never');
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>{{ session.me?.name }}</h1>
      <span class="quiet">{{ session.me?.email }}</span>
    </div>
    <AccountPanel @ended="refetch" />
    <MailChoicesPanel />
    <h2>Personal tokens</h2>
    <p class="quiet">A token lets a program use the API in your name, with your rights. Its secret is shown once.</p>
    <form class="row" style="max-width: 460px; margin-bottom: 12px" @submit.prevent="create">
      <el-input v-model="name" placeholder="What the token is for" aria-label="What the token is for" />
      <el-button type="primary" native-type="submit" :disabled="!name.trim()">Create token</el-button>
    </form>
    <p v-if="secret" class="sign action full">
      Copy it now: <code class="mono" data-test="token-secret">{{ secret }}</code>
    </p>
    <table v-if="tokens?.length" class="plain-table" style="max-width: 700px">
      <thead>
        <tr>
          <th>For</th>
          <th>Created</th>
          <th>Last used</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="token in tokens" :key="token.id">
          <td>{{ token.name }}</td>
          <td>{{ date(token.createdAt) }}</td>
          <td>{{ date(token.lastUsedAt) }}</td>
          <td class="right">
            <button class="button-link" @click="remove(token.id)">Delete: programs that use it stop working</button>
          </td>
        </tr>
      </tbody>
    </table>
    <ProgramsPanel v-if="session.administersInstallation" />
  </div>
</template>
