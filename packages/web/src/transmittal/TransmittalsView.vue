<script setup lang="ts">
import { listTransmittals } from '@kindred/contract/transmittal/transmittal';
import { Send } from '@lucide/vue';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { useFirstAsSelected, useRelated } from '../things/related.ts';
import { useSession } from '../identity/store.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import MoreRows from '../platform/MoreRows.vue';
import { call } from '../platform/api.ts';
import { usePages } from '../platform/pages.ts';
import { takeHandedOver } from '../platform/handed-over.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import SendTransmittalDialog from './SendTransmittalDialog.vue';
import { useRouteQuery } from '../platform/route-query.ts';

const project = useProject();
const session = useSession();
const related = useRelated();
const time = useTime();
const { query } = useRouteQuery();
const router = useRouter();
const {
  items: transmittals,
  loaded,
  hasMore,
  more,
} = usePages(
  () => [project.projectId, 'transmittal'],
  (after) => call(listTransmittals, { params: project.params, query: { ...(after && { after }) } }),
);
const preset = computed(() => takeHandedOver(query('send')));
const sending = ref(preset.value.length > 0);
useFirstAsSelected('transmittal', transmittals);
const open = (transmittalId: string) =>
  router.push({ name: 'transmittal', params: { ...project.params, transmittalId } });
function close(): void {
  sending.value = false;
  void router.replace({ query: {} });
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Transmittals</h1>
      <span class="spread" />
      <el-button v-if="project.may('transmittal', 'add')" type="primary" @click="sending = true"
        ><Send :size="15" style="margin-right: 5px" /> Send files</el-button
      >
    </div>
    <EmptyPlace v-if="loaded && !transmittals.length" title="Nothing was sent yet"
      >A transmittal freezes versions and proves who received them.</EmptyPlace
    >
    <table v-else class="plain-table">
      <thead>
        <tr>
          <th class="right">No.</th>
          <th>Transmittal</th>
          <th>Reason</th>
          <th>From</th>
          <th>Sent</th>
          <th class="right">Files</th>
          <th>Opened</th>
          <th>Downloaded</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="sent in transmittals"
          :key="sent.id"
          class="clickable"
          tabindex="0"
          @click="open(sent.id)"
          @keydown.enter="open(sent.id)"
          @mouseenter="related.select({ type: 'transmittal', id: sent.id })"
        >
          <td class="mono right">{{ String(sent.number).padStart(4, '0') }}</td>
          <td>
            <b>{{ sent.title }}</b>
            <span
              v-if="sent.receipts.some(({ person, openedAt }) => person.id === session.me?.id && !openedAt)"
              class="sign needs-you full after"
              >new for you</span
            >
            <span v-if="sent.files.some(({ superseded }) => superseded)" class="sign caution after"
              >some files superseded</span
            >
          </td>
          <td>{{ sent.reason }}</td>
          <td>{{ sent.sender.name }}</td>
          <td style="white-space: nowrap">{{ time.date(sent.sentAt) }}</td>
          <td class="mono right">{{ sent.files.length }}</td>
          <td class="mono">
            {{ sent.receipts.filter(({ openedAt }) => openedAt).length }} of {{ sent.receipts.length }}
          </td>
          <td class="mono">
            {{ sent.receipts.filter(({ downloadedAt }) => downloadedAt).length }} of {{ sent.receipts.length }}
          </td>
        </tr>
      </tbody>
    </table>
    <MoreRows :has-more="hasMore" @more="more" />
    <SendTransmittalDialog v-if="sending" :version-ids="preset" @close="close" />
  </div>
</template>
