<script setup lang="ts">
/** What was asked of the version before: typed, pasted, taken from markups and issues; each found or missing. */
import type { Brief } from '@kindred/contract/compare/compare';
import { counted } from '@kindred/words/sentence';
import { computed, ref } from 'vue';

type Request = Brief['requests'][number];
const props = defineProps<{
  brief: Brief;
  /** May ask for something. */
  mayAsk: boolean;
  /** Of the sheet that is looked at. */
  position: number | undefined;
  chosen: string | undefined;
  busy: boolean;
  /** Places are on sheets: a model has none. */
  placeless?: boolean;
}>();
const emit = defineEmits<{
  choose: [Request];
  change: [{ position: number; number: number }];
  add: [string[]];
  collect: [];
  place: [Request];
  remove: [Request];
}>();
const typed = ref('');
/** A line, or a paragraph that begins with a number or a dash, is a request. */
const lines = computed(() =>
  typed.value
    .split('\n')
    .map((line) => line.replace(/^\s*(?:\d{1,3}[.)]|[-–•*])\s+/, '').trim())
    .filter(Boolean)
    .map((line) => line.slice(0, 1000)),
);
function add(): void {
  emit('add', lines.value);
  typed.value = '';
}
const collectable = computed(() => {
  const { markups, issues } = props.brief.toCollect;
  return [markups && counted(markups, 'markup'), issues && counted(issues, 'issue')].filter(Boolean).join(' and ');
});
</script>

<template>
  <p v-if="!brief.requests.length" class="quiet hint">
    What was asked of the version before? With that known, you see what was done, what is missing, and what nobody asked
    for.
  </p>
  <p v-if="mayAsk && collectable" class="hint">
    <el-button size="small" :loading="busy" @click="emit('collect')">Take over {{ collectable }}</el-button>
  </p>
  <ol>
    <li v-for="(request, i) in brief.requests" :key="request.id" :class="{ chosen: request.id === chosen }">
      <button
        class="request"
        :aria-current="request.id === chosen ? 'true' : undefined"
        @click="emit('choose', request)"
      >
        <b class="mono">{{ i + 1 }}</b>
        <span>{{ request.text }}</span>
        <strong v-if="!request.changes.length" class="missing">missing</strong>
        <span v-else class="found">{{ request.ticked ? 'found' : 'found?' }}</span>
      </button>
      <div class="row links">
        <button
          v-for="name in request.changes"
          :key="`${name.position} ${name.number}`"
          class="button-link"
          @click="emit('change', name)"
        >
          change {{ name.number }}<template v-if="name.position !== position"> on sheet {{ name.position }}</template>
        </button>
        <template v-if="request.id === chosen && mayAsk">
          <button v-if="!placeless" class="button-link" @click="emit('place', request)">
            {{ request.place ? 'Show another place' : 'Show where' }}
          </button>
          <button class="button-link" @click="emit('remove', request)">Take back</button>
        </template>
      </div>
      <small v-if="request.id === chosen" class="quiet from"
        >{{ request.markupId ? 'from a markup, ' : request.issueId ? 'from an issue, ' : ''
        }}{{ request.by.name }}</small
      >
    </li>
  </ol>
  <form v-if="mayAsk" class="ask" @submit.prevent="lines.length && add()">
    <el-input
      v-model="typed"
      type="textarea"
      :rows="3"
      placeholder="Ask for something: a line each, or paste a list"
      aria-label="Requests, a line each"
    />
    <el-button native-type="submit" :disabled="!lines.length" :loading="busy">
      {{ lines.length > 1 ? `Add ${lines.length} requests` : 'Add request' }}
    </el-button>
  </form>
</template>

<style scoped>
.hint {
  margin: 10px 12px;
}
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  border-bottom: 1px solid var(--hairline);
}
li.chosen {
  background: var(--sheet);
}
.request {
  display: grid;
  grid-template-columns: 22px 1fr auto;
  gap: 4px;
  width: 100%;
  padding: 8px 12px 2px;
  border: 0;
  background: none;
  font: inherit;
  color: inherit;
  text-align: left;
  overflow-wrap: anywhere;
  cursor: pointer;
}
.missing {
  align-self: start;
  padding: 0 5px;
  border: 1px solid var(--needs-you);
  border-radius: 2px;
  color: var(--needs-you);
}
.found {
  color: var(--graphite);
}
.links,
.from {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  padding: 0 12px 6px 38px;
}
.ask {
  display: grid;
  gap: 8px;
  justify-items: start;
  padding: 12px;
}
</style>
