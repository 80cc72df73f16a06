<script setup lang="ts">
import { changeMailChoices, showMailChoices } from '@kindred/contract/identity/identity';
import { MAIL_WAYS, NOTICE_KINDS, type MailWay, type NoticeKind } from '@kindred/core/platform/notices';
import { useQuery } from '@pinia/colada';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';

/** How mail reaches me, for each kind of notice. */
const { data, refetch } = useQuery({ key: ['mail choices'], query: () => call(showMailChoices) });
const WORDS: Record<NoticeKind, string> = {
  issue: 'Issues that concern me',
  watching: 'Issues that I watch, and what comes into views that ring for me',
  mention: 'Where somebody names me',
  markup: 'Markups on what I delivered, to me, or that name me',
  review: 'Reviews, and answers to mine',
  transmittal: 'Transmittals to me',
  delivery: 'Newer versions of what I took',
  reservation: 'My reservations',
  project: 'Projects I am added to',
};
async function choose(kind: NoticeKind, way: MailWay): Promise<void> {
  await attempt(() => call(changeMailChoices, { body: { ...data.value!, [kind]: way } }));
  await refetch();
}
</script>

<template>
  <section v-if="data">
    <h2>Mail</h2>
    <p class="quiet">
      The bell shows everything at once. Mail comes as you choose here; daily mail comes at six in the morning, UTC.
    </p>
    <table class="plain-table" style="max-width: 560px">
      <tbody>
        <tr v-for="kind in NOTICE_KINDS" :key="kind">
          <td>{{ WORDS[kind] }}</td>
          <td v-for="way in MAIL_WAYS" :key="way">
            <label class="row"
              ><input type="radio" :name="`mail-${kind}`" :checked="data[kind] === way" @change="choose(kind, way)" />
              {{ way }}</label
            >
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 24px;
}
</style>
