<script setup lang="ts">
import { sendTransmittal, TRANSMITTAL_REASONS } from '@kindred/contract/transmittal/transmittal';
import { useQueryCache } from '@pinia/colada';
import { computed, reactive, ref } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../platform/api.ts';
import FormDialog from '../platform/FormDialog.vue';
import PersonSelect from '../people/PersonSelect.vue';
import { usePeople } from '../people/store.ts';
import { useProject } from '../portfolio/store.ts';
import ChooseVersionsDialog from '../register/ChooseVersionsDialog.vue';

defineProps<{ versionIds: string[] }>();
const emit = defineEmits<{ close: [] }>();
const project = useProject();
const router = useRouter();
const cache = useQueryCache();
const people = usePeople();
const chosen = ref<string[]>([]);
const form = reactive({
  title: '',
  reason: 'for information' as (typeof TRANSMITTAL_REASONS)[number],
  message: '',
  personIds: [] as string[],
  partyIds: [] as string[],
  recipientsSeeEachOther: true,
});
const recipients = computed(() => {
  const ids = new Set(form.personIds);
  for (const { party, person } of people.members) if (party && form.partyIds.includes(party.id)) ids.add(person.id);
  return ids.size;
});
const verb = computed(() => {
  const files = `${chosen.value.length} ${chosen.value.length === 1 ? 'file' : 'files'}`;
  return `Send ${files} to ${recipients.value} ${recipients.value === 1 ? 'person' : 'people'}`;
});

async function send(): Promise<void> {
  const sent = await call(sendTransmittal, { params: project.params, body: { ...form, versionIds: chosen.value } });
  await cache.invalidateQueries({ key: [project.projectId, 'transmittal'] });
  await router.push({ name: 'transmittal', params: { ...project.params, transmittalId: sent.id } });
}
</script>

<template>
  <FormDialog
    title="Send files"
    :verb="verb"
    :width="640"
    :ready="form.title.trim() !== '' && chosen.length > 0 && recipients > 0"
    :run="send"
    @close="emit('close')"
  >
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
          v-for="party in people.data?.parties"
          :key="party.id"
          :value="party.id"
          :label="party.name" /></el-select
    ></label>
    <label class="field"
      ><span>People</span><PersonSelect v-model="form.personIds" multiple :members="people.members"
    /></label>
    <label class="field"><span>Message</span><el-input v-model="form.message" type="textarea" :rows="2" /></label>
    <el-checkbox v-model="form.recipientsSeeEachOther">Recipients see each other</el-checkbox>
  </FormDialog>
</template>
