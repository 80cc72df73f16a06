<script setup lang="ts">
import type { Container } from '@kindred/contract/register/register';
import { ArrowDownUp, ChevronDown, ChevronRight, Lock } from '@lucide/vue';
import { useVirtualizer } from '@tanstack/vue-virtual';
import { until } from '@vueuse/core';
import { computed, nextTick, ref, watch } from 'vue';
import CellEditor from './CellEditor.vue';
import { columnOf, type Column, type EditableKey } from './columns.ts';
import type { Line } from './groups.ts';
import { PREPARATION_SIGNS, STATE_SIGNS } from './signs.ts';
import type { RegisterWords } from './words.ts';

/** The rows of the register, and its groups; only those in view are drawn. */
const props = defineProps<{
  lines: Line[];
  columns: string[];
  groupBy: string;
  sort: string;
  chosen: ReadonlyMap<string, Container>;
  /** Id of the container whose related things are shown. */
  selectedId: string | null;
  words: RegisterWords;
  /** Addresses: of what opening a container leads to, of its versions, of its picture. */
  addresses: Record<'open' | 'versions' | 'picture', (container: Container) => string>;
  mayEdit: (container: Container) => boolean;
}>();
const emit = defineEmits<{
  'sort-by': [string | undefined];
  select: [Container];
  open: [Container];
  tick: [Container];
  'tick-all': [];
  'tick-range': [Container[]];
  'toggle-group': [Line & { type: 'group' }];
  'more-of': [Line & { type: 'more' }];
  keep: [container: Container, key: EditableKey, value: string];
  end: [];
}>();

const ROW = 44;
const shown = computed(() => props.columns.map(columnOf).filter((column): column is Column => Boolean(column)));
const template = computed(() => `24px 46px minmax(150px, 1fr) ${shown.value.map(({ width }) => width).join(' ')}`);
/** Narrower than its columns the table scrolls sideways: head and rows alike. */
const leastWidth = computed(() => {
  const widths = shown.value.map(({ width }) => Number(/(?<!\d)(\d+)px/.exec(width)![1]));
  return `${24 + 46 + 150 + 20 + 8 * (widths.length + 2) + widths.reduce((sum, width) => sum + width, 0)}px`;
});
const body = ref<HTMLElement | null>(null);
const rows = useVirtualizer(
  computed(() => ({
    count: props.lines.length,
    getScrollElement: () => body.value,
    estimateSize: (i: number) => (props.lines[i]?.type === 'row' ? ROW : 30),
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

const editing = ref<{ id: string; key: EditableKey } | null>(null);
function edit(container: Container, key: EditableKey): void {
  if (props.mayEdit(container)) editing.value = { id: container.id, key };
}
/** The first click chooses a row, the next one on a value changes it. */
function clickCell(event: MouseEvent, container: Container, key: EditableKey): void {
  if (props.selectedId !== container.id) return;
  event.stopPropagation();
  edit(container, key);
}
function keep(container: Container, key: EditableKey, value: string): void {
  editing.value = null;
  emit('keep', container, key, value);
}
const isEditing = ({ id }: Container, key: string): boolean => editing.value?.id === id && editing.value.key === key;

/** Where a range begins that Shift makes longer. */
let anchor = 0;
function tickRange(to: number): void {
  const [from, until] = anchor < to ? [anchor, to] : [to, anchor];
  const range = props.lines.slice(from, until + 1);
  emit(
    'tick-range',
    range.flatMap((line) => (line.type === 'row' ? [line.container] : [])),
  );
}
function tick(event: MouseEvent | KeyboardEvent, container: Container, index: number): void {
  if (event.shiftKey) return tickRange(index);
  anchor = index;
  emit('tick', container);
}

/** One row can be reached by Tab: the selected one, else the first. */
const reachable = computed(() => {
  const at = props.lines.findIndex((line) => line.type === 'row' && line.container.id === props.selectedId);
  return at >= 0 ? at : 0;
});
const pageRows = (): number => Math.max(1, Math.floor((body.value?.clientHeight ?? 0) / ROW) - 1);
const STEPS: Record<string, (index: number) => number> = {
  ArrowDown: (index) => index + 1,
  ArrowUp: (index) => index - 1,
  PageDown: (index) => index + pageRows(),
  PageUp: (index) => index - pageRows(),
  Home: () => 0,
  End: () => props.lines.length - 1,
};
/** The line that keys mean: known before it has the focus, for a far one is drawn only once it is scrolled to. */
let current = 0;
function noteFocus({ target }: FocusEvent): void {
  const index = (target as HTMLElement).closest<HTMLElement>('[data-index]')?.dataset.index;
  if (index !== undefined) current = Number(index);
}
async function goTo(next: number): Promise<void> {
  current = next;
  rows.value.scrollToIndex(next);
  // The table keeps the focus meanwhile: the row that had it may not be drawn any more.
  body.value?.focus({ preventScroll: true });
  await until(() => rows.value.getVirtualItems().some(({ index }) => index === next)).toBe(true, { timeout: 5000 });
  await nextTick();
  if (current === next) body.value?.querySelector<HTMLElement>(`[data-index="${next}"]`)?.focus();
}
function pressKey(event: KeyboardEvent): void {
  const target = event.target as HTMLElement;
  const onLine = target === body.value || target.dataset.index !== undefined;
  if (!onLine && event.key !== 'F2') return;
  const line = props.lines[current];
  const to = STEPS[event.key]?.(current);
  if (!line || to === undefined) {
    if (line?.type === 'row') pressOnRow(event, line.container);
    return;
  }
  event.preventDefault();
  const next = Math.min(Math.max(to, 0), props.lines.length - 1);
  const nextLine = props.lines[next]!;
  if (nextLine.type === 'row') emit('select', nextLine.container);
  if (event.shiftKey) tickRange(next);
  else anchor = next;
  void goTo(next);
}
function pressOnRow(event: KeyboardEvent, container: Container): void {
  if (event.key === 'Enter') return emit('open', container);
  if (event.key !== ' ' && event.key !== 'F2') return;
  event.preventDefault();
  if (event.key === ' ') tick(event, container, current);
  else edit(container, 'title');
}
const ariaSort = (sorted: boolean) => (sorted ? 'other' : undefined);
</script>

<template>
  <div
    ref="body"
    class="table"
    role="grid"
    tabindex="-1"
    aria-label="Register"
    :aria-rowcount="lines.length + 1"
    @focusin="noteFocus"
    @keydown="pressKey"
  >
    <div class="line head" role="row" :style="{ gridTemplateColumns: template, minWidth: leastWidth }">
      <span role="columnheader"
        ><input
          type="checkbox"
          aria-label="Choose all that the filters find"
          :checked="chosen.size > 0"
          @click.prevent="emit('tick-all')"
      /></span>
      <span role="columnheader" aria-label="Picture"></span>
      <span role="columnheader" class="row" :aria-sort="ariaSort(sort === 'code' || sort === 'title')"
        ><button
          v-for="key in ['code', 'title']"
          :key="key"
          :class="{ sorted: sort === key }"
          @click="emit('sort-by', key)"
        >
          {{ key === 'code' ? 'Code' : 'Title' }} <ArrowDownUp v-if="sort === key" :size="11" /></button
      ></span>
      <span
        v-for="column in shown"
        :key="column.key"
        role="columnheader"
        :aria-sort="ariaSort(column.sort !== undefined && column.sort === sort)"
        ><button v-if="column.sort" :class="{ sorted: column.sort === sort }" @click="emit('sort-by', column.sort)">
          {{ column.word }} <ArrowDownUp v-if="column.sort === sort" :size="11" /></button
        ><span v-else class="fixed">{{ column.word }}</span></span
      >
    </div>
    <div role="rowgroup" :style="{ height: `${rows.getTotalSize()}px`, position: 'relative' }">
      <template v-for="row in rows.getVirtualItems()" :key="row.index">
        <template v-for="line in [lines[row.index]!]" :key="line.type">
          <div
            v-if="line.type !== 'row'"
            role="row"
            class="group"
            :class="{ more: line.type === 'more' }"
            :style="{ transform: `translateY(${row.start}px)` }"
          >
            <span role="gridcell">
              <button
                v-if="line.type === 'group'"
                :data-index="row.index"
                :aria-expanded="line.open"
                @click="emit('toggle-group', line)"
              >
                <component :is="line.open ? ChevronDown : ChevronRight" :size="14" />
                <b>{{ words.valueWords(groupBy, line.group.value, line.group.label) }}</b>
                <span class="mono quiet">{{ line.group.count }}</span>
              </button>
              <button v-else :data-index="row.index" @click="emit('more-of', line)">
                Show more of this group ({{ line.rest }})
              </button>
            </span>
          </div>
          <template v-else>
            <div
              v-for="container in [line.container]"
              :key="container.id"
              class="line"
              role="row"
              :tabindex="row.index === reachable ? 0 : -1"
              :data-index="row.index"
              :aria-rowindex="row.index + 2"
              :aria-selected="chosen.has(container.id)"
              :class="{ selected: selectedId === container.id }"
              :style="{ gridTemplateColumns: template, minWidth: leastWidth, transform: `translateY(${row.start}px)` }"
              @click="emit('select', container)"
              @dblclick="emit('open', container)"
            >
              <span role="gridcell"
                ><input
                  type="checkbox"
                  tabindex="-1"
                  :checked="chosen.has(container.id)"
                  :aria-label="`Choose ${container.code}`"
                  @click.stop="tick($event, container, row.index)"
              /></span>
              <span role="gridcell" class="thumb"
                ><img
                  v-if="container.preparation === 'ready' && container.kind !== 'document'"
                  :src="addresses.picture(container)"
                  loading="lazy"
                  alt=""
              /></span>
              <span role="gridcell" class="name">
                <CellEditor
                  v-if="isEditing(container, 'title')"
                  name="title"
                  :codes="[]"
                  :value="container.title"
                  :label="`Title of ${container.code}`"
                  @keep="keep(container, 'title', $event)"
                  @leave="editing = null"
                />
                <span v-else class="title-line">
                  <RouterLink
                    class="title"
                    tabindex="-1"
                    :to="addresses.open(container)"
                    @click.stop="emit('select', container)"
                    >{{ container.title || container.fileName }}</RouterLink
                  >
                  <span class="marks">
                    <Lock
                      v-if="container.reservedBy"
                      :size="13"
                      role="img"
                      :aria-label="`Reserved by ${container.reservedBy}`"
                      :title="`Reserved by ${container.reservedBy}`"
                    />
                    <RouterLink
                      v-if="container.conflicting"
                      class="sign needs-you full"
                      title="Two versions, one to go on with: decide"
                      :to="addresses.versions(container)"
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
              <span v-for="column in shown" :key="column.key" role="gridcell" :class="['holder', `is-${column.key}`]">
                <CellEditor
                  v-if="column.edit && isEditing(container, column.edit)"
                  :name="column.edit"
                  :codes="words.codesFor(column.edit)"
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
                  tabindex="-1"
                  :to="addresses.versions(container)"
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
              </span>
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
  outline: none;
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
.line.head .fixed {
  color: var(--graphite);
  white-space: nowrap;
}
.holder {
  display: grid;
  min-width: 0;
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
  height: 30px;
  border-bottom: 1px solid var(--hairline);
  background: var(--paper);
}
.group button {
  display: flex;
  align-items: center;
  gap: 8px;
  width: 100%;
  height: 29px;
  padding: 0 10px;
  border: 0;
  background: none;
  font: inherit;
  color: var(--ink);
  text-align: left;
  cursor: pointer;
}
.group.more {
  background: var(--sheet);
}
.group.more button {
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
@media (max-width: 700px) {
  .line {
    grid-template-columns: 28px 46px minmax(0, 1fr) auto !important;
    min-width: 0 !important;
  }
  .holder:not(.is-state),
  .head [role='columnheader']:nth-child(n + 4) {
    display: none;
  }
}
</style>
