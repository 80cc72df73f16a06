<script setup lang="ts">
import { nextTick, ref, watch } from 'vue';
import EmptyPlace from '../platform/EmptyPlace.vue';

/** Drawings with their pictures, to choose one from. */
const props = defineProps<{
  drawings: readonly { id: string; title: string; code: string; fileName: string; preparation: string }[];
  here: string;
  addressOf: (id: string) => string;
  pictureOf: (id: string) => string;
  loaded: boolean;
}>();
const emit = defineEmits<{ chosen: [] }>();
const list = ref<HTMLElement>();
/** Whoever comes by an address sees where they are. */
watch(
  () => [props.here, props.drawings.length],
  async () => {
    await nextTick();
    list.value?.querySelector('.here')?.scrollIntoView({ block: 'nearest' });
  },
  { immediate: true },
);
</script>

<template>
  <nav ref="list" aria-label="Sheets">
    <RouterLink
      v-for="drawing in drawings"
      :key="drawing.id"
      :to="addressOf(drawing.id)"
      class="entry"
      :class="{ here: drawing.id === here }"
      @click="emit('chosen')"
    >
      <span class="thumb"
        ><img v-if="drawing.preparation === 'ready'" :src="pictureOf(drawing.id)" alt="" loading="lazy"
      /></span>
      <b>{{ drawing.title || drawing.fileName }}</b>
      <small class="mono quiet">{{ drawing.code }}</small>
      <small v-if="drawing.preparation !== 'ready'" class="sign caution">{{ drawing.preparation }}</small>
    </RouterLink>
    <EmptyPlace v-if="loaded && !drawings.length" title="No drawing yet" style="margin: 10px"
      >Deliver a PDF to the register.</EmptyPlace
    >
  </nav>
</template>

<style scoped>
.entry {
  display: grid;
  padding: 10px 12px;
  border-bottom: 1px solid var(--hairline);
  color: var(--ink);
}
.entry:hover {
  text-decoration: none;
  background: var(--wash);
}
.entry.here {
  background: var(--sheet);
  box-shadow: inset 3px 0 var(--action);
}
.entry small {
  font-size: 10.5px;
  overflow-wrap: anywhere;
}
.thumb {
  height: 96px;
  display: grid;
  place-items: center;
  background: var(--wash);
  margin-bottom: 6px;
}
.thumb img {
  max-width: 100%;
  max-height: 96px;
}
</style>
