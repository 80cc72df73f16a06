<script setup lang="ts">
/** A place where one file is dropped or chosen; it says meanwhile what becomes of it. */
defineProps<{
  /** What the file chooser offers. */
  accept: string;
  label: string;
  /** What goes on with a file; empty while none was given. */
  busy: string;
  problem: string;
}>();
const emit = defineEmits<{ file: [file: File] }>();
function take(files: FileList | null | undefined): void {
  if (files?.[0]) emit('file', files[0]);
}
</script>

<template>
  <label class="drop" @dragover.prevent @drop.prevent="take($event.dataTransfer?.files)">
    <input
      type="file"
      :accept="accept"
      :aria-label="label"
      :disabled="busy !== ''"
      @change="take(($event.target as HTMLInputElement).files)"
    />
    <b v-if="busy" role="status">{{ busy }}</b>
    <slot v-else />
  </label>
  <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
</template>

<style scoped>
.drop {
  position: relative;
  display: grid;
  gap: 4px;
  padding: 34px 20px;
  border: 1px dashed var(--graphite);
  text-align: center;
  cursor: pointer;
}
.drop input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
}
.drop:focus-within {
  outline: 2px solid var(--action);
}
.problem {
  margin-top: 10px;
  color: var(--needs-you);
}
</style>
