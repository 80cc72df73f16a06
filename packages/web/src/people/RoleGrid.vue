<script setup lang="ts">
import type { Role } from '@kindred/contract/people/people';
import { ACTIONS, KINDS, type Action, type Kind } from '@kindred/core/people/rights';
import { computed } from 'vue';

const { roles } = defineProps<{ roles: Role[] }>();
const has = (role: Role, kind: Kind, action: Action): boolean => role.grid[kind]?.includes(action) ?? false;
/** Rows in which the roles do not agree: there they differ from each other. */
const differs = computed(
  () =>
    new Set(
      KINDS.filter((kind) => ACTIONS.some((action) => new Set(roles.map((role) => has(role, kind, action))).size > 1)),
    ),
);
const summary = (role: Role, kind: Kind): string =>
  ACTIONS.filter((action) => has(role, kind, action)).join(', ') || 'nothing';
</script>

<template>
  <section style="margin-top: 26px">
    <h2>Roles side by side</h2>
    <p class="quiet">What each role may do with each kind of thing: see, add, change, delete, manage.</p>
    <table class="plain-table">
      <thead>
        <tr>
          <th></th>
          <th v-for="role in roles" :key="role.id">{{ role.name }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="kind in KINDS" :key="kind">
          <td>
            <b v-if="differs.has(kind)">{{ kind }}</b><span v-else>{{ kind }}</span>
          </td>
          <td v-for="role in roles" :key="role.id">
            <span class="cells" :title="`${role.name}, ${kind}: ${summary(role, kind)}`">
              <i v-for="action in ACTIONS" :key="action" :class="{ on: has(role, kind, action) }">{{ action[0] }}</i>
            </span>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.cells {
  display: inline-flex;
  gap: 2px;
}
i {
  font: 11px/16px var(--mono);
  width: 16px;
  text-align: center;
  color: #b9b3a4;
  border-radius: 2px;
}
i.on {
  color: #fff;
  background: var(--info);
}
</style>
