<script setup lang="ts">
import { checkAccess, type Explanation } from '@kindred/contract/people/people';
import { computed, ref, watch } from 'vue';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { useFolders } from './folders-store.ts';
import { ACTS } from '../people/acts.ts';
import PersonSelect from '../people/PersonSelect.vue';
import { usePeople } from '../people/store.ts';

const props = defineProps<{ memberId?: string; folderId?: string }>();
const emit = defineEmits<{ close: [] }>();
const project = useProject();
const people = usePeople();
const folders = useFolders();
const memberId = ref<string | null>(props.memberId ?? null);
const folderId = ref(props.folderId ?? folders.list[0]?.id ?? '');
const words = ref(ACTS[1]!.words);
const act = computed(() => ACTS.find((one) => one.words === words.value)!);
const answer = ref<Explanation>();

let asked = 0;
watch(
  [memberId, folderId, act],
  async () => {
    answer.value = undefined;
    const mine = ++asked;
    const whom = memberId.value;
    if (!whom) return;
    const { kind, action, inFolder } = act.value;
    await attempt(async () => {
      const explained = await call(checkAccess, {
        params: { ...project.params, memberId: whom },
        query: { kind, action, ...(inFolder && folderId.value && { folderId: folderId.value }) },
      });
      if (mine === asked) answer.value = explained;
    });
  },
  { immediate: true },
);
const SIGNS = { yes: 'action full', no: 'needs-you full', nothing: 'quiet' } as const;
</script>

<template>
  <AppDialog title="Check access" :width="620" @close="emit('close')">
    <div class="question">
      <span>May</span>
      <PersonSelect
        v-model="memberId"
        membership
        :members="people.data?.members ?? []"
        placeholder="whom?"
        aria-label="Person"
        style="width: 190px"
      />
      <el-select v-model="words" aria-label="Act" style="width: 200px"
        ><el-option v-for="one in ACTS" :key="one.words" :value="one.words" :label="one.words"
      /></el-select>
      <el-select
        v-if="act.inFolder"
        v-model="folderId"
        filterable
        default-first-option
        aria-label="Folder"
        style="width: 280px"
        ><el-option v-for="folder in folders.list" :key="folder.id" :value="folder.id" :label="folder.path"
      /></el-select>
      <span>?</span>
    </div>
    <div v-if="answer" class="answer" data-test="answer">
      <p class="verdict sign full" :class="answer.allowed ? 'action' : 'needs-you'">
        <b>{{ answer.allowed ? 'Yes' : 'No' }}</b>
      </p>
      <ol>
        <li v-for="(reason, i) in answer.reasons" :key="i" :class="{ decides: i === answer.reasons.length - 1 }">
          <span class="sign" :class="SIGNS[reason.says]" />{{ reason.text }}
        </li>
      </ol>
    </div>
    <p v-else class="quiet">Choose a person: the answer names the rules that were asked, and the one that decides.</p>
    <template #footer><el-button @click="emit('close')">Close</el-button></template>
  </AppDialog>
</template>

<style scoped>
.question {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  margin-bottom: 16px;
}
.verdict {
  font-size: 16px;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  gap: 8px;
  align-items: baseline;
  padding: 6px 0;
  border-top: 1px solid var(--hairline);
}
li.decides {
  font-weight: 600;
}
</style>
