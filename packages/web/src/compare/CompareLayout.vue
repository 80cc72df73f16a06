<script setup lang="ts">
/** What a comparison stands in: its list at the side, the sheets in the middle with a strip above and one below. */
import SideList from '../platform/SideList.vue';

defineProps<{ heading: string; side: string; /** What the closed list says on a small screen. */ said: string }>();
defineSlots<{ side(): unknown; head?(): unknown; default(): unknown; foot(): unknown }>();
</script>

<template>
  <div class="compare">
    <h1 class="said-only">{{ heading }}</h1>
    <SideList :title="side" :chosen="said"><slot name="side" /></SideList>
    <section class="middle">
      <div v-if="$slots.head" class="head row"><slot name="head" /></div>
      <slot />
      <div class="foot row"><slot name="foot" /></div>
    </section>
  </div>
</template>

<style scoped>
.compare {
  height: 100%;
  display: grid;
  grid-template-columns: 320px minmax(0, 1fr);
}
.middle {
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
}
.head,
.foot {
  padding: 5px 12px;
  min-height: 36px;
}
.head {
  border-bottom: 1px solid var(--hairline);
}
.foot {
  margin-top: auto;
  border-top: 1px solid var(--hairline);
}
@media (max-width: 700px) {
  .compare {
    grid-template: auto minmax(0, 1fr) / minmax(0, 1fr);
  }
  .head,
  .foot {
    flex-wrap: wrap;
  }
}
</style>
