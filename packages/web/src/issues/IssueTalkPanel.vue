<script setup lang="ts">
/** What is said about an issue: people are named, pictures and documents go along, and what was said is changed in the open. */
import * as contract from '@kindred/contract/issues/comments';
import type { IssueComment } from '@kindred/contract/issues/comments';
import type { IssueView } from '@kindred/contract/issues/issues';
import { FileText, ImagePlus, Mail, X } from '@lucide/vue';
import { useQueryCache } from '@pinia/colada';
import { ElMessageBox } from 'element-plus';
import { computed, ref, watch } from 'vue';
import { RouterLink } from 'vue-router';
import { useSession } from '../identity/store.ts';
import { mentioned } from '../markup/mentions.ts';
import { usePeople } from '../people/store.ts';
import { addressOf, call } from '../platform/api.ts';
import PersonBadge from '../platform/PersonBadge.vue';
import { answered, attempt } from '../platform/say.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import ChooseVersionsDialog from '../register/ChooseVersionsDialog.vue';
import { sendFile } from '../register/send-file.ts';

const props = defineProps<{ view: IssueView }>();
const project = useProject();
const people = usePeople();
const session = useSession();
const time = useTime();
const cache = useQueryCache();
const issueId = computed(() => props.view.issue.id);
const params = computed(() => ({ ...project.params, issueId: issueId.value }));
const maySay = computed(() => project.may('issues', 'add'));
const again = () => cache.invalidateQueries({ key: [project.projectId, 'issue', issueId.value] });

const before = ref<IssueComment[]>([]);
const earlier = ref<string | null>(null);
watch(
  () => props.view.earlier,
  (cursor) => {
    before.value = [];
    earlier.value = cursor;
  },
  { immediate: true },
);
const comments = computed(() => [...before.value, ...props.view.comments]);
async function goBack(): Promise<void> {
  await attempt(async () => {
    const { items, next } = await call(contract.listIssueComments, {
      params: params.value,
      query: { after: earlier.value!, limit: 100 },
    });
    before.value = [...items.reverse(), ...before.value];
    earlier.value = next;
  });
}

const text = ref('');
const pictures = ref<File[]>([]);
const documents = ref<string[]>([]);
const attaching = ref(false);
const saying = ref(false);
const names = computed(() => people.members.map(({ person }) => ({ value: person.name.replaceAll(' ', '\u00a0') })));
const input = ref<HTMLInputElement>();
function choosePictures(list: FileList | null): void {
  pictures.value = [...pictures.value, ...(list ?? [])].slice(0, 8);
  if (input.value) input.value.value = '';
}
async function say(): Promise<void> {
  saying.value = true;
  const said = await attempt(async () => {
    const sent = [];
    for (const file of pictures.value)
      sent.push({ caption: file.name.slice(0, 200), uploadId: await sendFile(project.projectId, file, 'issue') });
    const words = text.value.replaceAll('\u00a0', ' ').trim();
    const persons = people.members.map(({ person }) => person);
    await call(contract.commentIssue, {
      params: params.value,
      body: { text: words, mentions: mentioned(words, persons), pictures: sent, versionIds: documents.value },
    });
  });
  saying.value = false;
  if (said) {
    text.value = '';
    pictures.value = [];
    documents.value = [];
    attaching.value = false;
  }
  await again();
}

const changing = ref<string>();
const words = ref('');
const at = (comment: IssueComment) => ({ ...params.value, commentId: comment.id });
function change(comment: IssueComment): void {
  changing.value = comment.id;
  words.value = comment.text;
}
async function keep(comment: IssueComment): Promise<void> {
  if (await attempt(() => call(contract.changeIssueComment, { params: at(comment), body: { text: words.value } })))
    changing.value = undefined;
  await again();
}
async function withdraw(comment: IssueComment): Promise<void> {
  const sure = await answered(
    ElMessageBox.confirm('That there was a comment of yours stays to be seen; what it said does not.', 'Withdraw it', {
      confirmButtonText: 'Withdraw',
      cancelButtonText: 'Cancel',
    }),
  );
  if (!sure) return;
  await attempt(() => call(contract.withdrawIssueComment, { params: at(comment) }));
  await again();
}
/** What a comment said before, once somebody asks. */
const editions = ref(new Map<string, { text: string; at: string }[]>());
async function showEditions(comment: IssueComment): Promise<void> {
  if (editions.value.delete(comment.id)) return;
  await attempt(async () => {
    editions.value.set(comment.id, await call(contract.listCommentEditions, { params: at(comment) }));
  });
}
const pictureOf = (comment: IssueComment, position: number): string =>
  addressOf(contract.showCommentPicture, { ...at(comment), position: String(position) });
const isMine = ({ author, withdrawnAt }: IssueComment): boolean => author.id === session.me?.id && !withdrawnAt;
</script>

<template>
  <section aria-label="What was said" data-help="issues/talk">
    <h2>What was said</h2>
    <p v-if="earlier"><button class="button-link" @click="goBack">What was said before</button></p>
    <article v-for="item in comments" :key="item.id">
      <div class="row">
        <PersonBadge :person="item.author" named /><time class="quiet mono">{{ time.moment(item.at) }}</time>
        <span v-if="item.writtenBy" class="quiet">brought in; written by {{ item.writtenBy }}</span>
        <Mail v-if="item.byMail" :size="13" aria-label="by mail" />
        <button v-if="item.editedAt && !item.withdrawnAt" class="button-link" @click="showEditions(item)">
          changed {{ time.moment(item.editedAt) }}
        </button>
        <span class="spread" />
        <template v-if="isMine(item) && maySay">
          <button class="button-link" @click="change(item)">Change</button>
          <button class="button-link" @click="withdraw(item)">Withdraw</button>
        </template>
      </div>
      <p v-if="item.withdrawnAt" class="quiet">Withdrawn {{ time.moment(item.withdrawnAt) }}.</p>
      <form v-else-if="changing === item.id" class="say" @submit.prevent="keep(item)">
        <el-input v-model="words" type="textarea" :rows="3" aria-label="Comment, changed" />
        <div class="row">
          <el-button @click="changing = undefined">Cancel</el-button>
          <el-button type="primary" native-type="submit" :disabled="!words.trim()">Keep</el-button>
        </div>
      </form>
      <p v-else class="said">{{ item.text }}</p>
      <ul v-if="editions.get(item.id)" class="editions">
        <li v-for="edition in editions.get(item.id)" :key="edition.at">
          <time class="mono">{{ time.moment(edition.at) }}</time> {{ edition.text }}
        </li>
      </ul>
      <div v-if="item.pictures.length" class="pictures">
        <a
          v-for="{ position, caption } in item.pictures"
          :key="position"
          :href="pictureOf(item, position)"
          target="_blank"
          rel="noopener"
          ><img :src="pictureOf(item, position)" :alt="caption || `Picture ${position}`"
        /></a>
      </div>
      <p v-for="one in item.documents" :key="one.versionId">
        <RouterLink :to="{ name: 'container', params: { ...project.params, containerId: one.containerId } }"
          ><FileText :size="13" /> {{ one.code }}, version {{ one.versionNumber }}</RouterLink
        >
      </p>
    </article>
    <p v-if="!comments.length" class="quiet">Nothing yet.</p>
    <form v-if="maySay" class="say" @submit.prevent="say">
      <el-mention
        v-model="text"
        type="textarea"
        :options="names"
        :rows="3"
        maxlength="10000"
        placeholder="Say something; @ names a person"
        aria-label="Comment"
      />
      <div v-if="pictures.length" class="row attached">
        <span v-for="(file, i) in pictures" :key="i" class="chip"
          >{{ file.name
          }}<button
            type="button"
            :aria-label="`Leave out ${file.name}`"
            @click="pictures = pictures.filter((_, at) => at !== i)"
          >
            <X :size="12" /></button
        ></span>
      </div>
      <ChooseVersionsDialog v-if="attaching" v-model="documents" :preset="[]" class="choose" />
      <div class="row">
        <button type="button" class="button-link" @click="input?.click()"><ImagePlus :size="14" /> Pictures</button>
        <button v-if="!attaching" type="button" class="button-link" @click="attaching = true">
          <FileText :size="14" /> Documents
        </button>
        <input
          ref="input"
          type="file"
          accept="image/*"
          multiple
          hidden
          aria-label="Pictures of the comment"
          @change="choosePictures(($event.target as HTMLInputElement).files)"
        />
        <el-button type="primary" native-type="submit" :disabled="!text.trim()" :loading="saying">Comment</el-button>
      </div>
    </form>
  </section>
</template>

<style scoped>
.said {
  white-space: pre-line;
  margin: 6px 0 12px;
  overflow-wrap: anywhere;
}
article {
  border-top: 1px solid var(--hairline);
  padding: 8px 0 0;
}
.say {
  display: grid;
  gap: 8px;
  justify-items: end;
  margin: 8px 0 16px;
}
.say > :first-child,
.choose,
.attached {
  width: 100%;
}
.pictures {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-bottom: 8px;
}
.pictures img {
  height: 120px;
  border: 1px solid var(--hairline);
}
.editions {
  margin: 0 0 10px;
  padding-left: 16px;
  color: var(--graphite);
  font-size: 12px;
}
.chip {
  display: inline-flex;
  gap: 4px;
  align-items: center;
  padding: 1px 6px;
  border: 1px solid var(--hairline);
  border-radius: 3px;
  font-size: 12px;
}
.chip button {
  display: inline-flex;
  border: 0;
  background: none;
  cursor: pointer;
}
</style>
