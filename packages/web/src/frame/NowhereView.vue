<script setup lang="ts">
import { RouterLink } from 'vue-router';
import EmptyPlace from '../platform/EmptyPlace.vue';
</script>

<template>
  <div class="page">
    <EmptyPlace title="There is nothing at this address"
      >The link may be old or incomplete. <RouterLink to="/">See your projects</RouterLink></EmptyPlace
    >
  </div>
</template>
