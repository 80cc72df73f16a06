<script setup lang="ts">
import { listOutbox, replyToMail, writeToProject, type Mail } from '@kindred/contract/identity/identity';
import { listProjects } from '@kindred/contract/portfolio/portfolio';
import dayjs from 'dayjs';
import { useQuery } from '@pinia/colada';
import { ref } from 'vue';
import { RouterLink, useRouter } from 'vue-router';
import EmptyPlace from '../platform/EmptyPlace.vue';
import MoreRows from '../platform/MoreRows.vue';
import { call } from '../platform/api.ts';
import FormDialog from '../platform/FormDialog.vue';
import { usePages } from '../platform/pages.ts';
import { sayDone } from '../platform/say.ts';

const mails = usePages(
  () => ['outbox'],
  (after) => call(listOutbox, { query: { ...(after && { after }) } }),
);

// What a mail program would do: write back, and write to a project.
const router = useRouter();
const text = ref('');
const answering = ref<Mail>();
const quoted = ({ text: said, sentAt }: Mail): string =>
  `\n\nOn ${dayjs(sentAt).format('D MMM YYYY')} Kindred Sheet wrote:\n${(said ?? '').replace(/^/gm, '> ')}`;
function answer(mail: Mail): void {
  answering.value = mail;
  text.value = quoted(mail);
}
async function reply(): Promise<void> {
  const { link } = await call(replyToMail, {
    params: { mailId: String(answering.value!.id) },
    body: { text: text.value },
  });
  sayDone('Your reply has arrived.');
  await router.push(link);
}
const writing = ref(false);
const subject = ref('');
const projectId = ref('');
const { data: projects } = useQuery({
  key: ['projects', 'to write to'],
  query: () => call(listProjects),
  enabled: writing,
});
function write(): void {
  text.value = subject.value = '';
  writing.value = true;
}
async function send(): Promise<void> {
  const body = { subject: subject.value.trim(), text: text.value };
  const { link } = await call(writeToProject, { params: { projectId: projectId.value }, body });
  sayDone('Your letter has arrived: it is an issue now.');
  await router.push(link);
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Simulated outbox</h1>
      <span class="quiet"
        >Mail that would have been sent to you. Installation administrators see that mail to others went out, not what
        it says.</span
      >
      <span class="spread" />
      <el-button @click="write">Write to a project</el-button>
    </div>
    <EmptyPlace v-if="mails.loaded.value && !mails.items.value.length" title="No mail yet"
      >When somebody asks you something, the letter stands here.</EmptyPlace
    >
    <article v-for="mail in mails.items.value" :key="mail.id" class="mail">
      <div class="row">
        <b>{{ mail.subject ?? 'To somebody else' }}</b><span class="spread" /><span class="mono quiet">{{
          mail.to
        }}</span
        ><time class="mono quiet">{{ dayjs(mail.sentAt).format('D MMM YYYY, HH:mm') }}</time>
      </div>
      <p v-if="mail.text" class="text">{{ mail.text }}</p>
      <p class="row">
        <RouterLink v-if="mail.link" :to="mail.link">Follow the link of this mail</RouterLink>
        <button v-if="mail.replies" class="button-link" @click="answer(mail)">Reply</button>
      </p>
    </article>
    <MoreRows :has-more="mails.hasMore.value" @more="mails.more" />
    <FormDialog
      v-if="answering"
      :title="`Reply: ${answering.subject}`"
      verb="Send"
      :ready="text.trim() !== ''"
      :run="reply"
      @close="answering = undefined"
    >
      <p class="quiet">Write above what is quoted, as in any mail program. What you write becomes a comment.</p>
      <el-input v-model="text" type="textarea" :rows="10" aria-label="Your reply" />
    </FormDialog>
    <FormDialog
      v-if="writing"
      title="Write to a project"
      verb="Send"
      :ready="Boolean(projectId && subject.trim() && text.trim())"
      :run="send"
      @close="writing = false"
    >
      <label class="field"
        ><span>To</span
        ><el-select v-model="projectId" placeholder="The project"
          ><el-option v-for="one in projects" :key="one.id" :value="one.id" :label="one.name" /></el-select
      ></label>
      <label class="field"><span>Subject</span><el-input v-model="subject" maxlength="200" /></label>
      <label class="field"><span>Words</span><el-input v-model="text" type="textarea" :rows="6" /></label>
      <p class="quiet">A letter to a project becomes an issue of its first type: the subject is its title.</p>
    </FormDialog>
  </div>
</template>

<style scoped>
.mail {
  background: var(--sheet);
  border: 1px solid var(--hairline);
  border-bottom: 0;
  padding: 10px 14px;
}
.mail:last-of-type {
  border-bottom: 1px solid var(--hairline);
}
.text {
  white-space: pre-line;
  margin: 4px 0;
}
</style>
