<script setup lang="ts">
import { listOutbox } from '@kindred/contract/identity/identity';
import dayjs from 'dayjs';
import { RouterLink } from 'vue-router';
import EmptyPlace from '../platform/EmptyPlace.vue';
import MoreRows from '../platform/MoreRows.vue';
import { call } from '../platform/api.ts';
import { usePages } from '../platform/pages.ts';

const mails = usePages(
  () => ['outbox'],
  (after) => call(listOutbox, { query: { ...(after && { after }) } }),
);
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Simulated outbox</h1>
      <span class="quiet"
        >Mail that would have been sent to you. Installation administrators see that mail to others went out, not what
        it says.</span
      >
    </div>
    <EmptyPlace v-if="mails.loaded.value && !mails.items.value.length" title="No mail yet"
      >When somebody asks you something, the letter stands here.</EmptyPlace
    >
    <article v-for="mail in mails.items.value" :key="mail.id" class="mail">
      <div class="row">
        <b>{{ mail.subject ?? 'To somebody else' }}</b><span class="spread" /><span class="mono quiet">{{
          mail.to
        }}</span
        ><time class="mono quiet">{{ dayjs(mail.sentAt).format('D MMM YYYY, HH:mm') }}</time>
      </div>
      <p v-if="mail.text" class="text">{{ mail.text }}</p>
      <RouterLink v-if="mail.link" :to="mail.link">Follow the link of this mail</RouterLink>
    </article>
    <MoreRows :has-more="mails.hasMore.value" @more="mails.more" />
  </div>
</template>

<style scoped>
.mail {
  background: var(--sheet);
  border: 1px solid var(--hairline);
  border-bottom: 0;
  padding: 10px 14px;
}
.mail:last-of-type {
  border-bottom: 1px solid var(--hairline);
}
.text {
  white-space: pre-line;
  margin: 4px 0;
}
</style>
