<script setup lang="ts">
/** The markups of a version beside its sheet: listed, published, answered, taken along and brought in. */
import { listIssues } from '@kindred/contract/issues/issues';
import {
  commentMarkup,
  showMarkup,
  showMarkupPicture,
  startMarkupExport,
  type Markup,
} from '@kindred/contract/markup/markup';
import type { MarkupStatus } from '@kindred/core/markup/shapes';
import type { Total } from '@kindred/core/markup/totals';
import { Download, Upload } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { usePeople } from '../people/store.ts';
import { addressOf, call } from '../platform/api.ts';
import { useJobs } from '../platform/jobs-store.ts';
import { attempt } from '../platform/say.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import BringInDialog from './BringInDialog.vue';
import TakeAlongDialog from './TakeAlongDialog.vue';
import { COPY_WORDS, type MarkedCopyKind } from './copy-words.ts';
import MarkupDetail from './MarkupDetail.vue';
import MarkupList from './MarkupList.vue';
import type { useMarkups } from './markups.ts';

const props = defineProps<{
  versionId: string;
  /** Files go out and come in where the version is a drawing. */
  isDrawing: boolean;
  markups: ReturnType<typeof useMarkups>;
  chosen: readonly string[];
  measureOf: (markup: Markup) => string;
  sayTotal: (total: Total) => string;
  sheetOf: (page: number) => string;
  mayRewrite: (markup: Markup) => boolean;
}>();
const emit = defineEmits<{ show: [Markup]; raise: [Markup]; version: [number: number, markup: Markup] }>();
const project = useProject();
const people = usePeople();
const jobs = useJobs();
const time = useTime();
const router = useRouter();
const mayMark = computed(() => project.may('markup', 'add'));

const one = computed(() =>
  props.chosen.length === 1 ? props.markups.list.value.find(({ id }) => id === props.chosen[0]) : undefined,
);
const at = (markup: Markup) => ({ ...project.params, markupId: markup.id });
const { data: whole, refetch } = useQuery({
  key: () => [project.projectId, 'markup', 'whole', one.value?.id ?? '', one.value?.edition ?? 0],
  query: () => call(showMarkup, { params: at(one.value!) }),
  enabled: () => one.value !== undefined,
});
const { data: issues } = useQuery({
  key: () => [project.projectId, 'issue', 'from', one.value?.threadId ?? ''],
  query: () => call(listIssues, { params: project.params, query: { markupId: one.value!.id, limit: 1 } }),
  enabled: () => one.value !== undefined && project.may('issues', 'see'),
});
async function say(text: string, mentions: string[]): Promise<void> {
  await attempt(() => call(commentMarkup, { params: at(one.value!), body: { text, mentions } }));
  await refetch();
}

const status = ref<MarkupStatus | ''>('');
const author = ref('');
const filtered = computed(() => status.value !== '' || author.value !== '');
const takeAlong = (as: MarkedCopyKind): Promise<boolean> =>
  attempt(async () => {
    const params = { ...project.params, versionId: props.versionId };
    const body = { as, ...(status.value && { status: status.value }), ...(author.value && { author: author.value }) };
    await jobs.follow(await call(startMarkupExport, { params, body }));
  });
const bringsIn = ref(false);
const takesAll = ref(false);
</script>

<template>
  <div class="panel">
    <MarkupList
      v-model:status="status"
      v-model:author="author"
      :markups="markups.loaded.value ? markups.list.value : undefined"
      :here="chosen"
      :may-change="mayMark"
      :measure-of="measureOf"
      :say-total="sayTotal"
      :sheet-of="sheetOf"
      @show="emit('show', $event)"
      @publish="markups.publish"
      @remove="markups.remove([$event])"
      @set-status="(markup, to) => markups.change([{ markup, after: { status: to } }])"
    >
      <template v-if="isDrawing" #acts>
        <div class="row acts">
          <el-dropdown v-if="markups.list.value.length" trigger="click">
            <button class="button-link row"><Download :size="15" /> Take them along</button>
            <template #dropdown>
              <el-dropdown-menu>
                <el-dropdown-item v-for="(words, as) in COPY_WORDS" :key="as" @click="takeAlong(as)"
                  >{{ words }}<template v-if="filtered">, as filtered below</template></el-dropdown-item
                >
                <el-dropdown-item divided @click="takesAll = true">Those of all drawings …</el-dropdown-item>
              </el-dropdown-menu>
            </template>
          </el-dropdown>
          <button v-if="mayMark" class="button-link row" @click="bringsIn = true">
            <Upload :size="15" /> Bring in
          </button>
        </div>
      </template>
      <template #detail="{ markup }">
        <MarkupDetail
          :markup="markup"
          :comments="whole?.comments ?? []"
          :editions="whole?.editions ?? []"
          :members="people.members"
          :may-rewrite="mayRewrite(markup)"
          :may-mark="mayMark"
          :picture="addressOf(showMarkupPicture, at(markup))"
          :issue="issues?.items[0]"
          :may-raise="project.may('issues', 'add') && !markup.draft"
          :say="time.short"
          @change="markups.change([{ markup, after: $event }])"
          @comment="say"
          @raise="emit('raise', markup)"
          @issue="router.push({ name: 'issue', params: { projectId: project.projectId, issueId: $event } })"
          @version="emit('version', $event, markup)"
        />
      </template>
    </MarkupList>
    <BringInDialog v-if="bringsIn" :version-id="versionId" :sheet-of="sheetOf" @close="bringsIn = false" />
    <TakeAlongDialog v-if="takesAll" @close="takesAll = false" />
  </div>
</template>

<style scoped>
.panel {
  padding: 10px 12px;
}
.acts {
  gap: 12px;
  margin: 2px 0 6px;
}
</style>
