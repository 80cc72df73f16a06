<script setup lang="ts">
/** A clash, or all of one cause: what meets, how, where, and what was decided. */
import type { Clash } from '@kindred/contract/clash/clashes';
import { counted } from '@kindred/words/sentence';
import { computed } from 'vue';
import { day } from '../platform/time.ts';
import { plainNames } from './clash-tree.ts';
import { SIDES } from './clashes-in-scene.ts';
import { PILE_LOOK, pileOf, sayClash } from './words.ts';

const props = defineProps<{
  /** Of the cause. */
  title: string;
  clashes: readonly Clash[];
  modelOf: (element: Clash['a']) => string;
}>();
defineSlots<{ acts(): unknown }>();
const one = computed(() => (props.clashes.length === 1 ? props.clashes[0] : undefined));
const deepest = computed(() => Math.max(0, ...props.clashes.map(({ depth }) => depth ?? 0)));
const storeys = computed(() => [...new Set(props.clashes.map(({ a, b }) => a.storey || b.storey).filter(Boolean))]);
const accepted = computed(() => [
  ...new Map(props.clashes.flatMap(({ accepted: said }) => (said ? [[said.reason, said]] : []))).values(),
]);
</script>

<template>
  <section class="details" aria-label="Clash">
    <h2>{{ title }}</h2>
    <template v-if="one">
      <p>
        <b :style="{ color: PILE_LOOK[pileOf(one)].colour }"
          >{{ PILE_LOOK[pileOf(one)].sign }} {{ PILE_LOOK[pileOf(one)].said }}</b
        >
        · {{ sayClash(one) }} · since {{ day(one.since) }}
      </p>
      <dl>
        <template v-for="side in ['a', 'b'] as const" :key="side">
          <dt><i :style="{ background: SIDES[side] }" />{{ plainNames(one[side].class) }}</dt>
          <dd>
            {{ one[side].name || 'Without a name' }}<small class="quiet">{{ modelOf(one[side]) }}</small>
          </dd>
        </template>
        <dt>Where</dt>
        <dd>
          {{ storeys.join(', ') || 'on no storey'
          }}<small class="mono quiet">{{ one.at.map((value) => value.toFixed(2)).join(' ') }}</small>
        </dd>
      </dl>
    </template>
    <p v-else>
      {{ counted(clashes.length, 'clash', 'clashes')
      }}<template v-if="deepest"> · up to {{ Math.round(deepest * 1e4) / 10 }} mm deep</template
      ><template v-if="storeys.length"> · {{ storeys.slice(0, 3).join(', ') }}</template>
    </p>
    <p v-for="said in accepted" :key="said.reason" class="accepted">
      ✓ {{ said.reason
      }}<small class="quiet"
        >{{ said.by.name }}, {{ day(said.at) }}{{ said.until ? `, until ${day(said.until)}` : '' }}</small
      >
    </p>
    <slot name="acts" />
  </section>
</template>

<style scoped>
.details {
  padding: 12px;
  overflow: auto;
  font-size: 12px;
}
p {
  margin: 4px 0;
  overflow-wrap: anywhere;
}
dl {
  display: grid;
  grid-template-columns: 34% 1fr;
  gap: 4px 8px;
  margin: 8px 0;
}
dt {
  color: var(--graphite);
  overflow-wrap: anywhere;
}
dt i {
  display: inline-block;
  width: 9px;
  height: 9px;
  margin-right: 5px;
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
small {
  display: block;
}
.accepted {
  padding: 6px 8px;
  background: var(--wash);
}
</style>
