<script setup lang="ts">
import { RouterView } from 'vue-router';
import { useNaming } from './naming/store.ts';
import { usePeople } from './people/store.ts';
import { useFolders } from './register/folders-store.ts';

// The queries of a store are kept up to date as long as the component lives that asks for the store first: here, always.
usePeople();
useFolders();
useNaming();
</script>

<template>
  <RouterView />
</template>
