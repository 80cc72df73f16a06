<script setup lang="ts">
/** A change as it was and as it is, beside each other. */
import { ref, watchEffect } from 'vue';
import { pictureOf, type PictureAsked } from './change-pictures.ts';

const props = defineProps<{ before: PictureAsked; after: PictureAsked }>();
const SIZE = [280, 190] as const;
const pictures = ref<{ caption: string; address: string }[]>([]);

watchEffect(async (onCleanup) => {
  let over = false;
  onCleanup(() => (over = true));
  const asked = [props.before, props.after];
  const drawn = await Promise.all(asked.map((one) => pictureOf(one, SIZE)));
  if (!over)
    pictures.value = drawn.map((canvas, i) => ({ caption: i ? 'After' : 'Before', address: canvas.toDataURL() }));
});
</script>

<template>
  <div class="pair">
    <figure v-for="one in pictures" :key="one.caption">
      <img :src="one.address" :alt="`${one.caption} the change`" />
      <figcaption>{{ one.caption }}</figcaption>
    </figure>
  </div>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px;
  min-height: 100px;
}
figure {
  margin: 0;
}
img {
  display: block;
  width: 100%;
  border: 1px solid var(--hairline);
  background: #fff;
}
figcaption {
  font-size: 12px;
  color: var(--graphite);
}
</style>
