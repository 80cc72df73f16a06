<script setup lang="ts">
import {
  acknowledgeTransmittal,
  downloadTransmittal,
  showTransmittal,
} from '@kindred/contract/transmittal/transmittal';
import { downloadVersion } from '@kindred/contract/register/register';
import { Download } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { computed, watchEffect } from 'vue';
import { useRoute } from 'vue-router';
import { useRelated } from '../things/related.ts';
import { useSession } from '../identity/store.ts';
import PersonBadge from '../platform/PersonBadge.vue';
import { addressOf, call } from '../platform/api.ts';
import { usePageSubject } from '../platform/page-title.ts';
import { attempt } from '../platform/say.ts';
import { bytes, useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';

const project = useProject();
const session = useSession();
const related = useRelated();
const time = useTime();
const route = useRoute();
const params = computed(() => ({ ...project.params, transmittalId: String(route.params.transmittalId) }));
const {
  data: sent,
  error,
  refetch,
} = useQuery({
  key: () => [project.projectId, 'transmittal', params.value.transmittalId],
  query: () => call(showTransmittal, { params: params.value }),
});
usePageSubject(() => sent.value && `${sent.value.number} ${sent.value.title}`);
watchEffect(() => related.select({ type: 'transmittal', id: params.value.transmittalId }));
const mine = computed(() => sent.value?.receipts.find(({ person }) => person.id === session.me?.id));
const size = computed(() => sent.value?.files.reduce((sum, file) => sum + file.size, 0) ?? 0);
async function acknowledge(): Promise<void> {
  await attempt(() => call(acknowledgeTransmittal, { params: params.value }));
  await refetch();
}
const fileOf = (versionId: string): string => addressOf(downloadVersion, { ...project.params, versionId });
</script>

<template>
  <div class="page">
    <div v-if="error" class="empty"><h2>There is no such transmittal, or it was not sent to you</h2></div>
    <template v-else-if="sent">
      <div class="page-head">
        <h1>
          <span class="mono quiet">{{ String(sent.number).padStart(4, '0') }}</span> {{ sent.title }}
        </h1>
        <span class="sign formal">{{ sent.reason }}</span>
        <span class="spread" />
        <el-button v-if="mine && !mine.acknowledgedAt" @click="acknowledge">Acknowledge receipt</el-button>
        <a :href="addressOf(downloadTransmittal, params)" download
          ><el-button type="primary"
            ><Download :size="15" style="margin-right: 5px" /> Download all, {{ bytes(size) }}</el-button
          ></a
        >
      </div>
      <p class="row">
        <PersonBadge :person="sent.sender" named />
        <span class="quiet">sent this on {{ time.moment(sent.sentAt) }}, {{ time.zone() }}</span>
      </p>
      <p v-if="sent.message" class="message">{{ sent.message }}</p>
      <h2>Files as they were sent</h2>
      <table class="plain-table" style="margin: 6px 0 20px">
        <thead>
          <tr>
            <th>Code</th>
            <th>Title</th>
            <th>Rev</th>
            <th>Status</th>
            <th class="right">Version</th>
            <th class="right">Size</th>
            <th>SHA-256</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="file in sent.files" :key="file.versionId">
            <td>
              <a class="mono" :href="fileOf(file.versionId)" download>{{ file.code }}</a>
            </td>
            <td>{{ file.title }} <span v-if="file.superseded" class="sign caution after">superseded</span></td>
            <td class="mono">{{ file.revision }}</td>
            <td class="mono">{{ file.status }}</td>
            <td class="mono right">{{ file.versionNumber }}</td>
            <td class="mono right">{{ bytes(file.size) }}</td>
            <td class="mono quiet" :title="file.sha256">{{ file.sha256.slice(0, 10) }}…</td>
          </tr>
        </tbody>
      </table>
      <h2>Receipts</h2>
      <table class="plain-table" style="margin-top: 6px">
        <thead>
          <tr>
            <th>Recipient</th>
            <th>Company</th>
            <th>Received</th>
            <th>Opened</th>
            <th>Downloaded</th>
            <th>Acknowledged</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="receipt in sent.receipts" :key="receipt.person.id">
            <td><PersonBadge :person="receipt.person" named /></td>
            <td>{{ receipt.party }}</td>
            <td
              v-for="(at, i) in [receipt.receivedAt, receipt.openedAt, receipt.downloadedAt, receipt.acknowledgedAt]"
              :key="i"
            >
              <span v-if="at" class="sign action full">{{ time.moment(at) }}</span><span v-else class="quiet"
                >not yet</span
              >
            </td>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped>
.message {
  white-space: pre-line;
  border-left: 3px solid var(--hairline);
  padding-left: 12px;
}
</style>
