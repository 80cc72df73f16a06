<script setup lang="ts">
import { nearestName } from '@kindred/core/naming/convention';
import type { Folder } from '@kindred/contract/register/folders';
import { useVirtualizer } from '@tanstack/vue-virtual';
import { ChevronDown, ChevronUp, X } from '@lucide/vue';
import { computed, ref } from 'vue';
import { useNaming } from '../naming/store.ts';
import ComposeName from '../naming/ComposeName.vue';
import NameVerdict from '../naming/NameVerdict.vue';
import { counted } from '@kindred/words/sentence';
import { bytes } from '../platform/time.ts';
import type { Arrival } from './arrival.ts';
import { useFolders } from './folders-store.ts';
import type { UploadDesk } from './upload-desk.ts';

const { desk } = defineProps<{
  desk: UploadDesk;
  /** Folders that the person may deliver to. */
  open: readonly Folder[];
  /** It stands below something else, and may be folded away. */
  foldable?: boolean;
}>();
const folders = useFolders();
const naming = useNaming();
const folded = ref(false);
const list = ref<HTMLElement | null>(null);
const rows = useVirtualizer(
  computed(() => ({
    count: desk.arrivals.length,
    getScrollElement: () => list.value,
    estimateSize: () => 104,
    overscan: 6,
    getItemKey: (i: number) => desk.arrivals[i]?.key ?? i,
  })),
);
/** Counted once all are there; before that nobody can deliver. */
const conforming = computed(() =>
  desk.waiting
    ? desk.arrived
    : desk.arrivals.filter((arrival) => arrival.state === 'arrived' && desk.verdictOf(arrival)?.ok).length,
);
const words: Record<Arrival['state'], string> = {
  waiting: 'waiting',
  arriving: 'arriving',
  arrived: 'arrived',
  refused: 'not delivered',
  delivered: 'delivered',
};
function nearestOf(arrival: Arrival): string | undefined {
  const convention = folders.conventionIn(arrival.folderId);
  const verdict = desk.verdictOf(arrival);
  return convention && verdict && !arrival.problem ? nearestName(convention, verdict) : undefined;
}
function takeNearest(arrival: Arrival): void {
  arrival.code = nearestOf(arrival)!;
  void desk.propose([arrival]);
}
const percent = ({ sent, size }: Arrival): number => (size ? Math.round((sent / size) * 100) : 0);
</script>

<template>
  <section class="desk" :class="{ below: foldable }" aria-label="Upload desk">
    <header class="row">
      <h2>Upload desk</h2>
      <span class="quiet">{{ desk.arrived }} arrived, {{ desk.waiting }} on the way</span>
      <span class="spread" />
      <span class="quiet">to</span>
      <el-select
        :model-value="desk.folderId"
        style="width: 250px"
        size="small"
        placeholder="several folders: all to …"
        aria-label="Folder"
        @update:model-value="desk.moveTo($event)"
        ><el-option v-for="folder in open" :key="folder.id" :value="folder.id" :label="folder.path"
      /></el-select>
      <el-button
        type="primary"
        size="small"
        :disabled="!desk.arrived || desk.waiting > 0 || desk.unplaced"
        :loading="desk.delivering"
        @click="desk.deliverArrived()"
      >
        Deliver {{ counted(desk.arrived, 'file')
        }}<template v-if="desk.arrived - conforming">, {{ desk.arrived - conforming }} to the intake</template>
      </el-button>
      <button
        v-if="foldable"
        class="button-link"
        :aria-label="folded ? 'Unfold the desk' : 'Fold the desk away'"
        :aria-expanded="!folded"
        @click="folded = !folded"
      >
        <component :is="folded ? ChevronUp : ChevronDown" :size="16" />
      </button>
    </header>
    <div v-show="!folded" ref="list" class="list">
      <div :style="{ height: `${rows.getTotalSize()}px`, position: 'relative' }">
        <div
          v-for="row in rows.getVirtualItems()"
          :key="String(row.key)"
          :ref="(element) => rows.measureElement(element as HTMLElement)"
          :data-index="row.index"
          class="arrival"
          :style="{ transform: `translateY(${row.start}px)` }"
        >
          <template v-for="arrival in [desk.arrivals[row.index]!]" :key="arrival.key">
            <div class="progress">
              <span class="mono" :title="arrival.fileName">{{ arrival.fileName }}</span>
              <el-progress
                :percentage="arrival.state === 'arrived' ? 100 : percent(arrival)"
                :show-text="false"
                :stroke-width="3"
              />
              <small class="quiet"
                >{{ words[arrival.state] }} · {{ bytes(arrival.size)
                }}<template v-if="!arrival.goesWith && arrival.version > 1">
                  · becomes version {{ arrival.version }}</template
                ></small
              >
            </div>
            <div class="meta">
              <div class="row">
                <el-input
                  v-model="arrival.code"
                  size="small"
                  class="mono code"
                  aria-label="Code"
                  @change="desk.propose([arrival])"
                />
                <ComposeName
                  v-model="arrival.code"
                  :convention="folders.conventionIn(arrival.folderId)"
                  @update:model-value="desk.propose([arrival])"
                />
                <el-input v-model="arrival.title" size="small" placeholder="Title" aria-label="Title" />
                <el-input
                  v-model="arrival.answers"
                  size="small"
                  style="width: 96px; flex: none"
                  class="mono"
                  placeholder="Answers no."
                  title="Numbers of issues that it answers, such as 12, 14"
                  aria-label="Answers issues"
                  data-help="upload-desk/answers"
                />
                <button
                  v-if="arrival.state === 'refused' && arrival.file?.size"
                  class="button-link"
                  @click="desk.retry(arrival)"
                >
                  Try again
                </button>
                <button class="button-link" :aria-label="`Leave out ${arrival.fileName}`" @click="desk.remove(arrival)">
                  <X :size="15" />
                </button>
              </div>
              <div v-if="!arrival.goesWith" class="row">
                <el-select v-model="arrival.status" size="small" style="width: 84px; flex: none" aria-label="Status"
                  ><el-option
                    v-for="code in naming.naming?.statuses"
                    :key="code.code"
                    :value="code.code"
                    :label="code.code"
                    ><span class="mono">{{ code.code }}</span> {{ code.meaning }}</el-option
                  ></el-select
                >
                <el-input
                  v-model="arrival.revision"
                  size="small"
                  style="width: 76px; flex: none"
                  class="mono"
                  aria-label="Revision"
                />
                <el-input
                  v-model="arrival.classification"
                  size="small"
                  style="width: 84px; flex: none"
                  class="mono"
                  placeholder="Class"
                  aria-label="Classification"
                />
                <el-input
                  v-model="arrival.description"
                  size="small"
                  placeholder="What changed"
                  aria-label="Description"
                />
                <el-select
                  v-if="!desk.folderId"
                  v-model="arrival.folderId"
                  size="small"
                  style="width: 210px; flex: none"
                  :aria-label="`Folder of ${arrival.fileName}`"
                  ><el-option v-for="folder in open" :key="folder.id" :value="folder.id" :label="folder.path"
                /></el-select>
              </div>
              <p v-if="arrival.problem" class="sign needs-you full problem">{{ arrival.problem }}</p>
              <NameVerdict v-else-if="desk.verdictOf(arrival)" :verdict="desk.verdictOf(arrival)!" />
              <button
                v-if="nearestOf(arrival)"
                class="button-link"
                title="Take the nearest allowed values"
                @click="takeNearest(arrival)"
              >
                Use <span class="mono">{{ nearestOf(arrival) }}</span>
              </button>
              <p v-if="desk.shownOf(arrival)" class="quiet note">
                Native file of {{ desk.shownOf(arrival)!.fileName }}: both are one version, and the register opens that
                one.
              </p>
              <p v-else-if="arrival.goesWith" class="quiet note">
                Native file of {{ arrival.goesWith }}, version {{ arrival.version }}, which nobody else has yet: it goes
                with it.
                <button class="button-link" @click="desk.asOwnVersion(arrival)">Make it a version of its own</button>
              </p>
              <p v-if="desk.twinOf(arrival)" class="sign caution full note">
                Same code as {{ desk.twinOf(arrival)!.fileName }} in this drop: it becomes the version after it. Change
                its code, or leave it out.
              </p>
              <p v-if="arrival.reservedBy" class="sign caution full note">
                Reserved by {{ arrival.reservedBy }}: your version will be in conflict with theirs until somebody
                decides.
              </p>
            </div>
          </template>
        </div>
      </div>
    </div>
  </section>
</template>

<style scoped>
.desk {
  border-top: 1px solid var(--graphite);
  background: var(--sheet);
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.desk.below {
  max-height: 46%;
}
header {
  padding: 8px 14px;
  border-bottom: 1px solid var(--hairline);
}
.list {
  overflow: auto;
  min-height: 150px;
}
.arrival {
  position: absolute;
  top: 0;
  left: 0;
  right: 0;
  display: grid;
  grid-template-columns: 230px 1fr;
  gap: 14px;
  padding: 8px 14px;
  border-bottom: 1px solid var(--wash);
}
.progress {
  display: grid;
  gap: 4px;
  align-content: start;
}
.progress .mono {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.meta .row {
  margin-bottom: 4px;
}
.code {
  min-width: 230px;
}
.note {
  margin: 3px 0 0;
}
.problem,
.note {
  margin-bottom: 0;
  white-space: normal;
}
@media (max-width: 700px) {
  .arrival {
    grid-template-columns: minmax(0, 1fr);
    gap: 6px;
  }
  .code {
    min-width: 0;
  }
  .meta .row {
    flex-wrap: wrap;
  }
  .meta .row > .el-input:not(.mono) {
    flex: 1 1 150px;
  }
}
</style>
