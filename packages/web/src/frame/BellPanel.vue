<script setup lang="ts">
import { listNotices, readNotices, type Notice } from '@kindred/contract/identity/identity';
import { Bell } from '@lucide/vue';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../platform/api.ts';
import MoreRows from '../platform/MoreRows.vue';
import { usePages } from '../platform/pages.ts';
import { attempt } from '../platform/say.ts';
import { useTime } from '../platform/time.ts';

const router = useRouter();
const time = useTime();
const { items, first, hasMore, more, refetch } = usePages(
  () => ['notices'],
  (after) => call(listNotices, { query: { ...(after && { after }) } }),
);
const unread = computed(() => first.value?.unread ?? 0);

async function follow(notice: Notice): Promise<void> {
  await readUpTo(notice.id);
  await router.push(notice.link);
}
async function readUpTo(id: number): Promise<void> {
  await attempt(() => call(readNotices, { body: { upTo: id } }));
  await refetch();
}
</script>

<template>
  <el-popover trigger="click" :width="380" placement="bottom-end">
    <template #reference>
      <button class="bell" :aria-label="`${unread} unread notices`">
        <Bell :size="17" :stroke-width="1.5" /><b v-if="unread">{{ unread }}</b>
      </button>
    </template>
    <div class="notices">
      <p v-if="!items.length" class="quiet">Nothing yet. You are told here when something waits for you.</p>
      <button
        v-for="notice in items"
        :key="notice.id"
        class="notice"
        :class="{ unread: !notice.read }"
        @click="follow(notice)"
      >
        <span>{{ notice.text }}</span><small class="quiet">{{ time.moment(notice.at) }}</small>
      </button>
      <MoreRows :has-more="hasMore" @more="more" />
    </div>
    <button v-if="unread" class="button-link" @click="readUpTo(items[0]!.id)">Mark all as read</button>
  </el-popover>
</template>

<style scoped>
.bell {
  position: relative;
  border: 0;
  background: none;
  padding: 6px;
  cursor: pointer;
  color: var(--ink);
  display: flex;
}
.bell b {
  position: absolute;
  top: -1px;
  right: -5px;
  font: 600 10px/15px var(--mono);
  min-width: 15px;
  padding: 0 3px;
  color: #fff;
  background: var(--needs-you);
  border-radius: 3px;
}
.notices {
  max-height: 380px;
  overflow: auto;
}
.notice {
  display: grid;
  width: 100%;
  text-align: left;
  border: 0;
  border-bottom: 1px solid var(--wash);
  background: none;
  padding: 7px 6px;
  font: inherit;
  color: inherit;
  cursor: pointer;
}
.notice:hover {
  background: var(--wash);
}
.notice.unread span {
  font-weight: 600;
}
</style>
