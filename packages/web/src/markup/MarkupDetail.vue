<script setup lang="ts">
/** Everything about one markup: its words, who sees to it, what was said, what became of it. */
import type { Markup, MarkupComment, MarkupEdition } from '@kindred/contract/markup/markup';
import type { Member } from '@kindred/contract/people/people';
import { FATE_WORDS, KIND_WORDS } from '@kindred/words/markups';
import { computed, ref, watch } from 'vue';
import PersonSelect from '../people/PersonSelect.vue';
import { mentioned } from './mentions.ts';

const props = defineProps<{
  markup: Markup;
  comments: readonly MarkupComment[];
  editions: readonly MarkupEdition[];
  members: Member[];
  /** Its words may be changed. */
  mayRewrite: boolean;
  /** Status, responsible and due may be changed, and something said. */
  mayMark: boolean;
  /** Address of its picture. */
  picture: string;
  /** The issue that was raised from it; a way to raise one, where that is allowed. */
  issue: { number: number; id: string } | undefined;
  mayRaise: boolean;
  say: (moment: string) => string;
}>();
const emit = defineEmits<{
  change: [Partial<{ text: string; assigneeId: string | null; dueOn: string | null }>];
  comment: [text: string, mentions: string[]];
  raise: [];
  issue: [id: string];
  version: [number: number];
}>();

const words = ref(props.markup.text);
watch(
  () => [props.markup.id, props.markup.text],
  () => (words.value = props.markup.text),
);
const comment = ref('');
watch(
  () => props.markup.id,
  () => (comment.value = ''),
);
const names = computed(() => props.members.map(({ person }) => ({ value: person.name.replaceAll(' ', '\u00a0') })));
function sayIt(): void {
  if (!comment.value.trim()) return;
  const text = comment.value.replaceAll('\u00a0', ' ').trim();
  emit(
    'comment',
    text,
    mentioned(
      text,
      props.members.map(({ person }) => person),
    ),
  );
  comment.value = '';
}
const whoWrote = ({ author, writtenBy }: { author: { name: string }; writtenBy: string | null }): string =>
  writtenBy ? `${writtenBy} (in another program; brought in by ${author.name})` : author.name;

/** What each edition made different from the one before. */
const happenings = computed(() =>
  props.editions.map((edition, i) => {
    const before = props.editions.slice(0, i).findLast(({ versionNumber }) => versionNumber === edition.versionNumber);
    const parts = before
      ? [
          before.status !== edition.status && `${before.status} → ${edition.status}`,
          before.text !== edition.text && 'other words',
          edition.redrawn && 'redrawn',
          before.assignee?.id !== edition.assignee?.id && `to ${edition.assignee?.name ?? 'nobody'}`,
          before.dueOn !== edition.dueOn && (edition.dueOn ? `due ${edition.dueOn}` : 'no due date'),
        ].filter(Boolean)
      : [i ? `carried to version ${edition.versionNumber}` : `made: ${edition.status}`];
    return { ...edition, words: parts.join(', ') || 'unchanged' };
  }),
);
</script>

<template>
  <div class="detail">
    <p class="quiet">
      {{ KIND_WORDS[markup.shape.kind] }}, {{ whoWrote(markup) }}, {{ say(markup.createdAt) }}
      <button v-if="markup.carriedFrom" class="button-link" @click="emit('version', markup.carriedFrom)">
        carried from version {{ markup.carriedFrom }}
      </button>
      <span v-if="markup.fate && markup.fate !== 'same'" class="quiet">{{ FATE_WORDS[markup.fate] }}</span>
      <button v-if="markup.carriedTo" class="button-link" @click="emit('version', markup.carriedTo)">
        goes on in version {{ markup.carriedTo }}
      </button>
    </p>
    <a v-if="markup.picture" :href="picture" target="_blank"><img :src="picture" alt="Its picture" /></a>
    <template v-if="mayRewrite && !markup.carriedTo">
      <el-input v-model="words" type="textarea" autosize maxlength="2000" aria-label="Words of the markup" />
      <el-button v-if="words !== markup.text" size="small" type="primary" @click="emit('change', { text: words })"
        >Save words</el-button
      >
    </template>
    <div v-if="mayMark && !markup.carriedTo" class="who">
      <label
        ><span>Responsible</span
        ><PersonSelect
          :model-value="markup.assignee?.id ?? null"
          :members="members"
          size="small"
          placeholder="nobody"
          @update:model-value="emit('change', { assigneeId: ($event as string) || null })"
      /></label>
      <label
        ><span>Due</span
        ><el-date-picker
          :model-value="markup.dueOn"
          size="small"
          value-format="YYYY-MM-DD"
          format="D MMM YYYY"
          style="width: 100%"
          @update:model-value="emit('change', { dueOn: $event ?? null })"
      /></label>
    </div>
    <p v-else-if="markup.assignee" class="quiet">
      {{ markup.assignee.name }} sees to it<template v-if="markup.dueOn">, due {{ markup.dueOn }}</template>
    </p>
    <p v-if="issue || mayRaise" class="row">
      <button v-if="issue" class="button-link" @click="emit('issue', issue.id)">Issue {{ issue.number }}</button>
      <button v-else class="button-link" @click="emit('raise')">Raise an issue from it</button>
    </p>
    <ul v-if="comments.length" class="comments">
      <li v-for="one in comments" :key="one.id">
        <small class="quiet">{{ whoWrote(one) }}, {{ say(one.at) }}</small>
        <span>{{ one.text }}</span>
      </li>
    </ul>
    <form v-if="mayMark && !markup.draft" @submit.prevent="sayIt">
      <el-mention
        v-model="comment"
        type="textarea"
        :options="names"
        :rows="2"
        maxlength="2000"
        placeholder="Say something; @ names a person"
        aria-label="Comment"
        @keydown.ctrl.enter="sayIt"
      />
      <el-button v-if="comment.trim()" size="small" type="primary" native-type="submit">Comment</el-button>
    </form>
    <details v-if="happenings.length">
      <summary>History</summary>
      <ol>
        <li v-for="one in happenings" :key="`${one.versionNumber}/${one.edition}`">
          <small class="quiet">{{ say(one.at) }} {{ one.writtenBy ?? one.by.name }}</small>
          <span>{{ one.words }}</span>
        </li>
      </ol>
    </details>
  </div>
</template>

<style scoped>
.detail {
  display: grid;
  gap: 6px;
  padding-top: 6px;
  font-size: 12px;
}
p {
  margin: 0;
}
img {
  max-width: 100%;
  max-height: 160px;
  border: 1px solid var(--hairline);
}
.who {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px;
}
label span {
  display: block;
  color: var(--graphite);
}
ul,
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  padding: 3px 0;
  border-top: 1px solid var(--wash);
  overflow-wrap: anywhere;
}
li small {
  display: block;
}
.comments span {
  white-space: pre-wrap;
}
form {
  display: grid;
  gap: 4px;
  justify-items: start;
}
form > :first-child {
  width: 100%;
}
summary {
  cursor: pointer;
  color: var(--graphite);
}
</style>
