<script setup lang="ts">
/** Another version of the drawing beside the one on the table, moved along with it or on its own. */
import { ref, watch } from 'vue';
import VersionSelect from '../register/VersionSelect.vue';
import type { SheetSource } from './table/sources.ts';
import SheetTable from './table/SheetTable.vue';
import type { SheetView } from './table/view.ts';

const props = defineProps<{
  source: SheetSource | undefined;
  broken: string;
  page: number;
  version: number;
  versions: readonly { id: string; number: number; revision: string }[];
}>();
const emit = defineEmits<{ version: [number]; close: [] }>();
/** That of the table. */
const view = defineModel<SheetView | null>('view', { required: true });
const linked = ref(true);
/** Its own, while it goes its own way. */
const free = ref<SheetView | null>(null);
watch(linked, (isLinked) => (free.value = isLinked ? null : view.value));
const own = (next: SheetView | null): void => {
  if (linked.value) view.value = next;
  else free.value = next;
};
</script>

<template>
  <section class="beside" :aria-label="`Version ${props.version} beside`">
    <div class="bar row">
      <VersionSelect
        :version="version"
        :versions="versions"
        label="Version beside"
        @version="emit('version', $event)"
      />
      <label class="row"><input v-model="linked" type="checkbox" /> moves along</label>
      <span class="spread" />
      <button class="button-link" @click="emit('close')">Close</button>
    </div>
    <div class="table">
      <SheetTable v-if="source" :view="linked ? view : free" :source="source" :page="page" pans @update:view="own" />
      <p v-else class="quiet" style="padding: 20px">{{ broken || 'Opening …' }}</p>
    </div>
  </section>
</template>

<style scoped>
.beside {
  position: relative;
  min-width: 0;
  min-height: 0;
  border-left: 2px solid var(--hairline);
}
/* Over the sheet, so that both begin at the same height. */
.bar {
  position: absolute;
  inset: auto 0 0;
  z-index: 1;
  padding: 3px 10px;
  border-top: 1px solid var(--hairline);
  background: var(--paper);
}
.table {
  height: 100%;
}
</style>
