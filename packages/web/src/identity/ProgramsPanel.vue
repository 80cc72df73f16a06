<script setup lang="ts">
/** Programs that may ask people to act in their names; registered by administrators of the installation. */
import { addProgram, listPrograms, removeProgram } from '@kindred/contract/identity/programs';
import { useQuery } from '@pinia/colada';
import { ref } from 'vue';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';

const { data: programs, refetch } = useQuery({ key: ['programs'], query: () => call(listPrograms) });
const name = ref('');
const address = ref('');
const made = ref<{ id: string; secret: string }>();
async function add(): Promise<void> {
  await attempt(async () => {
    const body = { name: name.value.trim(), redirectUris: [address.value.trim()] };
    const { program, secret } = await call(addProgram, { body });
    made.value = { id: program.id, secret };
    name.value = address.value = '';
    await refetch();
  });
}
async function remove(programId: string): Promise<void> {
  await attempt(() => call(removeProgram, { params: { programId } }));
  await refetch();
}
</script>

<template>
  <section aria-label="Programs">
    <h2>Programs</h2>
    <p class="quiet">
      A program that is registered here may ask people to let it in (OAuth 2), to stay in step with their issues by the
      BCF API at <code class="mono">/bcf/3.0</code>. Its secret is shown once.
    </p>
    <form class="row add" @submit.prevent="add">
      <el-input v-model="name" placeholder="Name of the program" aria-label="Name of the program" maxlength="100" />
      <el-input
        v-model="address"
        placeholder="https://program.example/back"
        aria-label="Address that it is led back to"
        maxlength="500"
      />
      <el-button type="primary" native-type="submit" :disabled="!name.trim() || !address.trim()">Register</el-button>
    </form>
    <p v-if="made" class="sign action full">
      Copy it now: <code class="mono">{{ made.id }}</code> with the secret <code class="mono">{{ made.secret }}</code>
    </p>
    <table v-if="programs?.length" class="plain-table" style="max-width: 700px">
      <thead>
        <tr>
          <th>Program</th>
          <th>Led back to</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="program in programs" :key="program.id">
          <td>{{ program.name }}</td>
          <td class="mono">{{ program.redirectUris.join(', ') }}</td>
          <td class="right"><button class="button-link" @click="remove(program.id)">Remove</button></td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
section {
  margin-top: 22px;
}
.add {
  max-width: 700px;
  margin-bottom: 12px;
}
</style>
