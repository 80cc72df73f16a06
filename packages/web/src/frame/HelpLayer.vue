<script setup lang="ts">
/**
 * Explanations: while they are on, pointing at a control (or coming to it by key) tells what it does, and using it does nothing.
 * A control joins by the attribute `data-help`, its text stands in `HELP`.
 */
import { HELP } from '@kindred/words/help';
import { useEventListener } from '@vueuse/core';
import { computed, onBeforeUnmount, onMounted, ref } from 'vue';

const emit = defineEmits<{ close: [] }>();
const topic = ref('');
const help = computed(() => HELP[topic.value]);
const bar = ref<HTMLElement>();

const controlAt = (target: EventTarget | null): HTMLElement | null =>
  target instanceof Element ? target.closest<HTMLElement>('[data-help]') : null;
const isOurs = (target: EventTarget | null): boolean => target instanceof Node && !!bar.value?.contains(target);
function tell(event: Event): void {
  const control = controlAt(event.target);
  if (control) topic.value = control.dataset.help!;
}
/** Whatever it is that was pressed, it is only explained. */
function hold(event: Event): void {
  if (isOurs(event.target)) return;
  tell(event);
  event.preventDefault();
  event.stopImmediatePropagation();
}
function onKey(event: KeyboardEvent): void {
  if (event.key === 'Escape') {
    event.stopImmediatePropagation();
    emit('close');
  } else if (!isOurs(event.target) && event.key !== 'Tab') hold(event);
}
const first = { capture: true };
useEventListener(window, 'pointermove', tell, first);
useEventListener(window, 'focusin', tell, first);
for (const held of ['pointerdown', 'mousedown', 'pointerup', 'click', 'dblclick', 'contextmenu', 'touchstart'] as const)
  useEventListener(window, held, hold, { capture: true, passive: false });
useEventListener(window, 'keydown', onKey, first);

onMounted(() => document.body.classList.add('explaining'));
onBeforeUnmount(() => document.body.classList.remove('explaining'));
</script>

<template>
  <Teleport to="body">
    <aside ref="bar" class="help" aria-label="Explanations">
      <p role="status">
        <template v-if="help"
          ><b>{{ help.title }}</b> {{ help.text }}</template
        >
        <template v-else
          >Point at a control with a dashed outline, tap it, or come to it with Tab: here it says what it
          does.</template
        >
      </p>
      <button @click="emit('close')">End explanations <kbd>Esc</kbd></button>
    </aside>
  </Teleport>
</template>

<style>
.explaining [data-help] {
  outline: 1.5px dashed var(--action);
  outline-offset: -2px;
  cursor: help;
}
</style>
<style scoped>
.help {
  position: fixed;
  left: 50%;
  top: 84px;
  transform: translateX(-50%);
  z-index: 4000;
  display: flex;
  align-items: center;
  gap: 18px;
  width: min(760px, calc(100vw - 24px));
  padding: 10px 16px;
  background: var(--ink);
  color: #fff;
  line-height: 1.4;
}
p {
  flex: 1;
  margin: 0;
  min-height: 2.8em;
}
button {
  border: 0;
  background: none;
  color: #fff;
  font: inherit;
  min-height: 32px;
  cursor: pointer;
  text-decoration: underline;
}
</style>
