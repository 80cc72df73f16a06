<script setup lang="ts">
import { listPeople } from '@kindred/contract/people/people';
import { sendTransmittal, TRANSMITTAL_REASONS } from '@kindred/contract/transmittal/transmittal';
import { useQuery, useQueryCache } from '@pinia/colada';
import { computed, reactive, ref } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import ChooseVersionsDialog from '../register/ChooseVersionsDialog.vue';

defineProps<{ versionIds: string[] }>();
const emit = defineEmits<{ close: [] }>();
const project = useProject();
const router = useRouter();
const cache = useQueryCache();
const { data: people } = useQuery({
  key: () => [project.projectId, 'person'],
  query: () => call(listPeople, { params: project.params }),
});
const chosen = ref<string[]>([]);
const form = reactive({
  title: '',
  reason: 'for information' as (typeof TRANSMITTAL_REASONS)[number],
  message: '',
  personIds: [] as string[],
  partyIds: [] as string[],
  recipientsSeeEachOther: true,
});
const busy = ref(false);
const recipients = computed(() => {
  const ids = new Set(form.personIds);
  for (const { party, person } of people.value?.members ?? [])
    if (party && form.partyIds.includes(party.id)) ids.add(person.id);
  return ids.size;
});
async function send(): Promise<void> {
  busy.value = true;
  await attempt(async () => {
    const sent = await call(sendTransmittal, { params: project.params, body: { ...form, versionIds: chosen.value } });
    await cache.invalidateQueries({ key: [project.projectId, 'transmittal'] });
    emit('close');
    await router.push({ name: 'transmittal', params: { ...project.params, transmittalId: sent.id } });
  });
  busy.value = false;
}
</script>

<template>
  <AppDialog title="Send files" :width="640" @close="emit('close')">
    <form id="send-transmittal" @submit.prevent="send">
      <label class="field"><span>Title</span><el-input v-model="form.title" maxlength="200" autofocus /></label>
      <label class="field"
        ><span>Reason</span
        ><el-select v-model="form.reason"
          ><el-option v-for="reason in TRANSMITTAL_REASONS" :key="reason" :value="reason" :label="reason" /></el-select
      ></label>
      <div class="field">
        <span>Files, frozen to these versions</span><ChooseVersionsDialog v-model="chosen" :preset="versionIds" />
      </div>
      <label class="field"
        ><span>Companies: everybody of them in this project</span
        ><el-select v-model="form.partyIds" multiple placeholder="none"
          ><el-option
            v-for="party in people?.parties"
            :key="party.id"
            :value="party.id"
            :label="party.name" /></el-select
      ></label>
      <label class="field"
        ><span>People</span
        ><el-select v-model="form.personIds" multiple filterable default-first-option placeholder="none"
          ><el-option
            v-for="member in people?.members"
            :key="member.id"
            :value="member.person.id"
            :label="member.person.name" /></el-select
      ></label>
      <label class="field"><span>Message</span><el-input v-model="form.message" type="textarea" :rows="2" /></label>
      <el-checkbox v-model="form.recipientsSeeEachOther">Recipients see each other</el-checkbox>
    </form>
    <template #footer>
      <el-button @click="emit('close')">Not now</el-button>
      <el-button
        type="primary"
        native-type="submit"
        form="send-transmittal"
        :disabled="!form.title.trim() || !chosen.length || !recipients"
        :loading="busy"
        >Send {{ chosen.length }} {{ chosen.length === 1 ? 'file' : 'files' }} to {{ recipients }}
        {{ recipients === 1 ? 'person' : 'people' }}</el-button
      >
    </template>
  </AppDialog>
</template>
