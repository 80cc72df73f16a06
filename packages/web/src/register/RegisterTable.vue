<script setup lang="ts">
import { downloadProduct, type Container } from '@kindred/contract/register/register';
import { atLeast } from '@kindred/core/register/folder-rights';
import { ArrowDownUp, ChevronDown, ChevronRight, Lock } from '@lucide/vue';
import { useVirtualizer } from '@tanstack/vue-virtual';
import { computed, nextTick, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { useKin } from '../frame/kin.ts';
import { addressOf } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';
import CellEditor from './CellEditor.vue';
import { columnOf, type Column, type EditableKey } from './columns.ts';
import { useEdits } from './edits.ts';
import type { Line } from './groups.ts';
import { openingOf } from './opening.ts';
import { PREPARATION_SIGNS, STATE_SIGNS } from './signs.ts';
import { useRegisterWords } from './words.ts';

/** The rows of the register, and its groups; only those in view are drawn. */
const props = defineProps<{
  lines: Line[];
  columns: string[];
  groupBy: string;
  sort: string;
  chosen: ReadonlyMap<string, Container>;
}>();
const emit = defineEmits<{
  'sort-by': [string | undefined];
  tick: [Container];
  'tick-all': [];
  'toggle-group': [Line & { type: 'group' }];
  'more-of': [Line & { type: 'more' }];
  end: [];
}>();

const project = useProject();
const kin = useKin();
const edits = useEdits();
const router = useRouter();
const words = useRegisterWords();

const shown = computed(() => props.columns.map(columnOf).filter((column): column is Column => Boolean(column)));
const template = computed(() => `20px 46px minmax(150px, 1fr) ${shown.value.map(({ width }) => width).join(' ')}`);
/** Narrower than its columns the table scrolls sideways: head and rows alike. */
const leastWidth = computed(() => {
  const widths = shown.value.map(({ width }) => Number(/(\d+)px/.exec(width)![1]));
  return `${20 + 46 + 150 + 20 + 8 * (widths.length + 2) + widths.reduce((sum, width) => sum + width, 0)}px`;
});
const body = ref<HTMLElement | null>(null);
const rows = useVirtualizer(
  computed(() => ({
    count: props.lines.length,
    getScrollElement: () => body.value,
    estimateSize: (i: number) => (props.lines[i]?.type === 'row' ? 44 : 30),
    overscan: 12,
  })),
);
watch(
  () => props.lines,
  () => rows.value.measure(),
);
watch(
  () => rows.value.getVirtualItems().at(-1)?.index,
  (last) => {
    if (last !== undefined && last > props.lines.length - 30) emit('end');
  },
);

const thumbnail = ({ versionId }: Container): string =>
  addressOf(downloadProduct, { projectId: project.projectId, versionId, product: 'thumbnail' });
const lineage = ({ id }: Container) => ({
  name: 'container',
  params: { projectId: project.projectId, containerId: id },
});

const editing = ref<{ id: string; key: EditableKey } | null>(null);
const mayEdit = ({ level, state }: Container): boolean =>
  project.may('register', 'change') && atLeast(level, 'deliver') && state !== 'archived';
function edit(container: Container, key: EditableKey): void {
  if (mayEdit(container)) editing.value = { id: container.id, key };
}
/** The first click chooses a row, the next one on a value changes it. */
function clickCell(event: MouseEvent, container: Container, key: EditableKey): void {
  if (kin.selected?.id !== container.id) return;
  event.stopPropagation();
  edit(container, key);
}
async function keep({ id }: Container, key: EditableKey, value: string): Promise<void> {
  editing.value = null;
  await edits.change([{ containerId: id, [key]: value }]);
}
const isEditing = ({ id }: Container, key: string): boolean => editing.value?.id === id && editing.value.key === key;

const select = ({ id }: Container): void => kin.select({ type: 'container', id });
const open = (container: Container) => router.push(openingOf(container, project.projectId));
async function step(event: KeyboardEvent, index: number, by: number): Promise<void> {
  let next = index + by;
  while (props.lines[next] && props.lines[next]!.type !== 'row') next += by;
  const line = props.lines[next];
  if (line?.type !== 'row') return;
  event.preventDefault();
  rows.value.scrollToIndex(next);
  select(line.container);
  await nextTick();
  body.value?.querySelector<HTMLElement>(`[data-index="${next}"]`)?.focus();
}
</script>

<template>
  <div ref="body" class="table" role="table" aria-label="Register">
    <div class="line head" role="row" :style="{ gridTemplateColumns: template, minWidth: leastWidth }">
      <input
        type="checkbox"
        aria-label="Choose all that the filters find"
        :checked="chosen.size > 0"
        @click.prevent="emit('tick-all')"
      />
      <span></span>
      <span class="row"
        ><button
          v-for="key in ['code', 'title']"
          :key="key"
          role="columnheader"
          :class="{ sorted: sort === key }"
          @click="emit('sort-by', key)"
        >
          {{ key === 'code' ? 'Code' : 'Title' }} <ArrowDownUp v-if="sort === key" :size="11" /></button
      ></span>
      <button
        v-for="column in shown"
        :key="column.key"
        role="columnheader"
        :class="{ sorted: column.sort === sort, fixed: !column.sort }"
        @click="emit('sort-by', column.sort)"
      >
        {{ column.word }} <ArrowDownUp v-if="column.sort === sort" :size="11" />
      </button>
    </div>
    <div :style="{ height: `${rows.getTotalSize()}px`, position: 'relative' }">
      <template v-for="row in rows.getVirtualItems()" :key="row.index">
        <template v-for="line in [lines[row.index]!]" :key="line.type">
          <button
            v-if="line.type === 'group'"
            class="group"
            :aria-expanded="line.open"
            :style="{ transform: `translateY(${row.start}px)` }"
            @click="emit('toggle-group', line)"
          >
            <component :is="line.open ? ChevronDown : ChevronRight" :size="14" />
            <b>{{ words.valueWords(groupBy, line.group.value, line.group.label) }}</b>
            <span class="mono quiet">{{ line.group.count }}</span>
          </button>
          <button
            v-else-if="line.type === 'more'"
            class="group more"
            :style="{ transform: `translateY(${row.start}px)` }"
            @click="emit('more-of', line)"
          >
            Show more of this group ({{ line.rest }})
          </button>
          <template v-else>
            <div
              v-for="container in [line.container]"
              :key="container.id"
              class="line"
              role="row"
              tabindex="0"
              :data-index="row.index"
              :class="{ selected: kin.selected?.id === container.id }"
              :style="{ gridTemplateColumns: template, minWidth: leastWidth, transform: `translateY(${row.start}px)` }"
              @click="select(container)"
              @dblclick="open(container)"
              @keydown.enter="open(container)"
              @keydown.space.prevent="emit('tick', container)"
              @keydown.f2.prevent="edit(container, 'title')"
              @keydown.down="step($event, row.index, 1)"
              @keydown.up="step($event, row.index, -1)"
            >
              <input
                type="checkbox"
                :checked="chosen.has(container.id)"
                :aria-label="`Choose ${container.code}`"
                @click.stop="emit('tick', container)"
              />
              <span class="thumb"
                ><img
                  v-if="container.preparation === 'ready' && container.kind !== 'document'"
                  :src="thumbnail(container)"
                  loading="lazy"
                  alt=""
              /></span>
              <span class="name">
                <CellEditor
                  v-if="isEditing(container, 'title')"
                  name="title"
                  :value="container.title"
                  :label="`Title of ${container.code}`"
                  @keep="keep(container, 'title', $event)"
                  @leave="editing = null"
                />
                <span v-else class="title-line">
                  <RouterLink
                    class="title"
                    :to="openingOf(container, project.projectId)"
                    @click.stop="select(container)"
                    >{{ container.title || container.fileName }}</RouterLink
                  >
                  <span class="marks">
                    <Lock
                      v-if="container.reservedBy"
                      :size="13"
                      :aria-label="`Reserved by ${container.reservedBy}`"
                      :title="`Reserved by ${container.reservedBy}`"
                    />
                    <RouterLink
                      v-if="container.contested"
                      class="sign needs-you full"
                      title="Two versions, one to go on with: decide"
                      :to="lineage(container)"
                      @click.stop
                      >decide</RouterLink
                    >
                    <small
                      v-if="container.preparation !== 'ready'"
                      :class="PREPARATION_SIGNS[container.preparation]"
                      :title="container.preparationNote"
                      >{{ container.preparation }}</small
                    >
                  </span>
                </span>
                <span class="mono code" :title="words.decoded(container)">{{ container.code }}</span>
              </span>
              <template v-for="column in shown" :key="column.key">
                <CellEditor
                  v-if="column.edit && isEditing(container, column.edit)"
                  :name="column.edit"
                  :value="container[column.edit]"
                  :label="`${column.word} of ${container.code}`"
                  @keep="keep(container, column.edit, $event)"
                  @leave="editing = null"
                />
                <span v-else-if="column.key === 'state'" :class="STATE_SIGNS[container.state]">{{
                  container.state
                }}</span>
                <RouterLink
                  v-else-if="column.key === 'delivered'"
                  class="cell mono quiet"
                  :to="lineage(container)"
                  :title="words.hint('delivered', container)"
                  @click.stop
                  >{{ words.cell('delivered', container) }}</RouterLink
                >
                <span
                  v-else
                  class="cell"
                  :class="{ mono: column.mono, editable: column.edit && mayEdit(container) }"
                  :title="words.hint(column.key, container)"
                  @click="column.edit && clickCell($event, container, column.edit)"
                  >{{ words.cell(column.key, container) }}</span
                >
              </template>
            </div>
          </template>
        </template>
      </template>
    </div>
    <slot />
  </div>
</template>

<style scoped>
.table {
  flex: 1;
  overflow: auto;
  background: var(--sheet);
  border-top: 1px solid var(--hairline);
  font-size: 12px;
}
.line {
  display: grid;
  gap: 8px;
  align-items: center;
  height: 44px;
  padding: 0 10px;
  border-bottom: 1px solid var(--wash);
}
.line:not(.head),
.group {
  position: absolute;
  top: 0;
  left: 0;
  right: 0;
}
.line.head {
  height: 30px;
  position: sticky;
  top: 0;
  background: var(--sheet);
  z-index: 2;
  border-bottom: 1px solid var(--hairline);
}
.line.head button {
  border: 0;
  background: none;
  padding: 0;
  font: inherit;
  color: var(--graphite);
  text-align: left;
  cursor: pointer;
  white-space: nowrap;
}
.line.head button.fixed {
  cursor: default;
}
.line.head .sorted {
  color: var(--ink);
  font-weight: 600;
}
.line:not(.head):hover {
  background: var(--paper);
}
.line.selected {
  background: var(--action-wash);
}
.group {
  display: flex;
  align-items: center;
  gap: 8px;
  width: 100%;
  height: 30px;
  padding: 0 10px;
  border: 0;
  border-bottom: 1px solid var(--hairline);
  background: var(--paper);
  font: inherit;
  color: var(--ink);
  text-align: left;
  cursor: pointer;
}
.group.more {
  background: var(--sheet);
  color: var(--action);
  padding-left: 32px;
}
.thumb {
  width: 46px;
  height: 34px;
  display: grid;
  place-items: center;
  background: var(--paper);
}
.thumb img {
  max-width: 46px;
  max-height: 34px;
}
.cell,
.code,
.title {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.selected .editable {
  text-decoration: underline dotted var(--graphite);
  text-underline-offset: 3px;
  cursor: text;
  min-height: 1.4em;
}
.name {
  display: grid;
  min-width: 0;
}
.name .code {
  color: var(--graphite);
  font-size: 11px;
}
.title-line {
  display: flex;
  gap: 8px;
  align-items: center;
  min-width: 0;
}
.name .title {
  color: var(--ink);
  font-weight: 500;
  font-size: 13px;
}
.marks {
  display: flex;
  flex: none;
  gap: 6px;
  align-items: center;
  color: var(--graphite);
}
</style>
