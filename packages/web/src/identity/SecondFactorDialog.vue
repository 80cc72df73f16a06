<script setup lang="ts">
/** Turns the second factor on, with a first code, or off, with the password. */
import { beginSecondFactor, turnOffSecondFactor, turnOnSecondFactor } from '@kindred/contract/identity/identity';
import { onMounted, ref } from 'vue';
import { call } from '../platform/api.ts';
import { saveText } from '../platform/files.ts';
import { attempt } from '../platform/say.ts';

const props = defineProps<{ on: boolean }>();
const emit = defineEmits<{ close: [] }>();
const secret = ref('');
const address = ref('');
const typed = ref('');
const recoveryCodes = ref<string[]>([]);
onMounted(async () => {
  if (props.on) return;
  await attempt(async () => {
    const begun = await call(beginSecondFactor);
    secret.value = begun.secret;
    address.value = begun.address;
  });
});
async function submit(): Promise<void> {
  if (props.on) {
    if (await attempt(() => call(turnOffSecondFactor, { body: { password: typed.value } }))) emit('close');
    return;
  }
  await attempt(async () => {
    recoveryCodes.value = (await call(turnOnSecondFactor, { body: { code: typed.value.trim() } })).recoveryCodes;
  });
}
const spaced = (text: string): string => text.replace(/(.{4})/g, '$1 ').trim();
</script>

<template>
  <AppDialog :title="on ? 'Turn the second factor off' : 'Turn the second factor on'" @close="emit('close')">
    <template v-if="recoveryCodes.length">
      <p>It is on. Keep these codes on paper: each signs you in once, should you lose your device.</p>
      <ul class="codes mono">
        <li v-for="code in recoveryCodes" :key="code">{{ code }}</li>
      </ul>
      <el-button size="small" @click="saveText('Codes for signing in.txt', recoveryCodes.join('\n'), 'text/plain')"
        >Save them as a file</el-button
      >
    </template>
    <form v-else id="second-factor" @submit.prevent="submit">
      <template v-if="!on">
        <p>
          Add an account to your authenticator with this key, then type the code that it shows.
          <a v-if="address" :href="address">On a phone, open it in the authenticator.</a>
        </p>
        <p class="mono key" data-test="second-factor-key">{{ spaced(secret) }}</p>
      </template>
      <label class="field"
        ><span>{{ on ? 'Your password' : 'Code' }}</span
        ><el-input
          v-model="typed"
          :type="on ? 'password' : 'text'"
          :autocomplete="on ? 'current-password' : 'one-time-code'"
      /></label>
    </form>
    <template #footer>
      <el-button v-if="recoveryCodes.length" type="primary" @click="emit('close')">I have kept them</el-button>
      <template v-else>
        <el-button @click="emit('close')">Cancel</el-button>
        <el-button type="primary" native-type="submit" form="second-factor" :disabled="typed.trim().length < 6">{{
          on ? 'Turn off' : 'Turn on'
        }}</el-button>
      </template>
    </template>
  </AppDialog>
</template>

<style scoped>
.key {
  font-size: 15px;
  user-select: all;
}
.codes {
  columns: 2;
  list-style: none;
  padding: 0;
}
</style>
