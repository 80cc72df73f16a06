<script setup lang="ts">
defineProps<{ person: { name: string; initials: string; colour: string }; named?: boolean }>();
</script>

<template>
  <span class="person" :title="person.name">
    <span class="initials" :style="{ background: person.colour }">{{ person.initials }}</span>
    <span v-if="named">{{ person.name }}</span>
  </span>
</template>

<style scoped>
.person {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  white-space: nowrap;
}
.initials {
  width: 24px;
  height: 20px;
  display: inline-grid;
  place-items: center;
  color: #fff;
  font-size: 10.5px;
  font-weight: 600;
  border-radius: 3px;
}
</style>
