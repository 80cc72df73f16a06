<script setup lang="ts">
import {
  decideVersion,
  downloadNative,
  downloadProduct,
  downloadVersion,
  prepareAgain,
  reserveContainers,
  restoreVersion,
  showContainer,
  type Version,
} from '@kindred/contract/register/register';
import { decodeName } from '@kindred/core/naming/decode-name';
import { actionsFrom, mayAddVersions, mayChange as mayChangeOf } from '@kindred/core/register/may-change';
import type { ContainerAction } from '@kindred/core/register/states';
import { metadataChanges } from '@kindred/core/register/version-changes';
import { Download, Lock, RotateCcw } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { computed, ref, watchEffect } from 'vue';
import { RouterLink, useRoute, useRouter } from 'vue-router';
import { useRelated } from '../things/related.ts';
import HistoryPanel from '../things/HistoryPanel.vue';
import { useSession } from '../identity/store.ts';
import { useNaming } from '../naming/store.ts';
import PersonBadge from '../platform/PersonBadge.vue';
import { addressOf, call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { bytes, useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import CellEditor from './CellEditor.vue';
import type { EditableKey } from './columns.ts';
import RaiseIssueDialog from '../issues/RaiseIssueDialog.vue';
import VersionChangesPanel from '../compare/VersionChangesPanel.vue';
import CompareVersionsDialog from './CompareVersionsDialog.vue';
import { useEdits } from './edits.ts';
import { useFolders } from './folders-store.ts';
import MoveStatesDialog from './MoveStatesDialog.vue';
import PlacingPanel from './PlacingPanel.vue';
import { openingOf } from './opening.ts';
import { useRegisterWords } from './words.ts';
import { PREPARATION_SIGNS, SOURCE_WORDS, STATE_SIGNS } from './signs.ts';
import { usePageSubject } from '../platform/page-title.ts';

const project = useProject();
const raising = ref(false);
const naming = useNaming();
const folders = useFolders();
const session = useSession();
const edits = useEdits();
const words = useRegisterWords();
const related = useRelated();
const time = useTime();
const route = useRoute();
const router = useRouter();
const containerId = computed(() => String(route.params.containerId));
const params = computed(() => ({ ...project.params, containerId: containerId.value }));
const { data, error, refetch } = useQuery({
  key: () => [project.projectId, 'container', containerId.value],
  query: () => call(showContainer, { params: params.value }),
});
watchEffect(() => related.select({ type: 'container', id: containerId.value }));

const container = computed(() => data.value?.container);
const versions = computed(() => data.value?.versions ?? []);
const me = computed(() => project.view?.me);
const mayChange = computed(() => Boolean(me.value && container.value && mayChangeOf(me.value, container.value)));
const mayAdd = computed(() => Boolean(me.value && container.value && mayAddVersions(me.value, container.value)));
const actions = computed(() =>
  container.value && mayChange.value && !container.value.atIntake
    ? actionsFrom(container.value.state, project.may('register', 'manage'))
    : [],
);
const moving = ref<ContainerAction | null>(null);
const capital = (word: string): string => word[0]!.toUpperCase() + word.slice(1);

const parts = computed(() => {
  const convention = container.value && folders.conventionIn(container.value.folderId);
  return convention ? decodeName(convention, container.value!.code).filter(({ meaning }) => meaning) : [];
});
/** What a version says otherwise than the one before it in the line. */
function changesOf(version: Version) {
  const before = versions.value.find(({ number, sequence }) => number < version.number && sequence !== 'set aside');
  return before ? metadataChanges(before, version) : [];
}
const isCurrent = ({ number }: Version): boolean => number === container.value?.versionNumber;

const editing = ref<EditableKey | null>(null);
async function keep(key: EditableKey, value: string): Promise<void> {
  editing.value = null;
  if (await edits.change([{ containerId: containerId.value, [key]: value }])) await refetch();
}

const reservedByMe = computed(() => container.value?.reservedBy === session.me?.name);
async function reserve(wanted: boolean): Promise<void> {
  const body = { containerIds: [containerId.value], reserve: wanted };
  await attempt(() => call(reserveContainers, { params: project.params, body }));
  await refetch();
}
async function restore({ number }: Version): Promise<void> {
  const done = await attempt(() => call(restoreVersion, { params: params.value, body: { number } }));
  if (done) sayDone(`Version ${number} is current again, with its metadata, as a new version.`);
  await refetch();
}
async function decide({ number }: Version, decision: 'take' | 'set aside'): Promise<void> {
  const done = await attempt(() => call(decideVersion, { params: params.value, body: { number, decision } }));
  if (done) sayDone(decision === 'take' ? `Version ${number} goes on.` : `Version ${number} is set aside, and kept.`);
  await refetch();
}
async function tryAgain(versionId: string): Promise<void> {
  await attempt(() => call(prepareAgain, { params: { ...project.params, versionId } }));
}
const compared = computed(() => {
  const [older, newer] = String(route.query.compare ?? '')
    .split(',')
    .map((number) => versions.value.find((version) => version.number === Number(number)));
  return older && newer ? { older, newer } : null;
});
const compare = (older?: number, newer?: number) =>
  router.replace({ query: { ...route.query, compare: older && newer ? `${older},${newer}` : undefined } });
const fileOf = (versionId: string): string => addressOf(downloadVersion, { ...project.params, versionId });
const nativeOf = (versionId: string, nativeId: string): string =>
  addressOf(downloadNative, { ...project.params, versionId, nativeId });
const thumbnailOf = (versionId: string): string =>
  addressOf(downloadProduct, { ...project.params, versionId, product: 'thumbnail' });
usePageSubject(() => container.value?.title || container.value?.code);
</script>

<template>
  <div class="page">
    <div v-if="error" class="empty"><h2>There is no such container, or you may not see it</h2></div>
    <template v-else-if="container">
      <div class="page-head">
        <div class="names">
          <h1>
            <CellEditor
              v-if="editing === 'title'"
              name="title"
              :codes="words.codesFor('title')"
              :value="container.title"
              label="Title"
              @keep="keep('title', $event)"
              @leave="editing = null"
            />
            <button v-else-if="mayChange" class="button-link title" @click="editing = 'title'">
              {{ container.title || 'Give it a title' }}
            </button>
            <template v-else>{{ container.title || container.fileName }}</template>
          </h1>
          <span class="mono">{{ container.code }}</span>
          <small class="quiet">{{ folders.byId.get(container.folderId)?.path }}</small>
        </div>
        <span :class="STATE_SIGNS[container.state]">{{ container.state }}</span>
        <span v-if="container.reservedBy" class="sign caution"
          ><Lock :size="12" /> reserved by {{ reservedByMe ? 'you' : container.reservedBy }} since
          {{ time.moment(container.reservedAt!) }}</span
        >
        <span class="spread" />
        <el-button v-if="project.may('issues', 'add')" @click="raising = true">Raise issue</el-button>
        <template v-if="mayAdd && !container.atIntake">
          <el-button v-if="!container.reservedBy" size="small" @click="reserve(true)">Reserve</el-button>
          <el-button v-else-if="reservedByMe" size="small" @click="reserve(false)">Release</el-button>
          <el-button v-else-if="project.may('register', 'manage')" size="small" @click="reserve(false)"
            >Break the reservation</el-button
          >
        </template>
        <el-button v-for="action in actions" :key="action" size="small" @click="moving = action">{{
          capital(action)
        }}</el-button>
        <PlacingPanel
          v-if="mayChange"
          :containers="[container]"
          @done="refetch()"
          @removed="router.push({ name: 'register', params: project.params })"
        />
        <RouterLink :to="openingOf(container, project.projectId)"
          ><el-button v-if="container.kind !== 'document'" type="primary" :disabled="container.preparation !== 'ready'"
            >Open</el-button
          ></RouterLink
        >
      </div>
      <p v-if="parts.length" class="parts">
        <span v-for="part in parts" :key="part.field"
          ><span class="mono">{{ part.code }}</span> {{ part.meaning }}</span
        >
      </p>
      <div class="row versions-head">
        <h2>Versions</h2>
        <span class="spread" />
        <el-button v-if="versions.length > 1" size="small" @click="compare(versions[1]!.number, versions[0]!.number)"
          >Compare two versions</el-button
        >
      </div>
      <ol class="versions">
        <li
          v-for="version in versions"
          :key="version.id"
          :class="{
            sought: route.query.version === String(version.number),
            conflicting: version.sequence === 'conflicting',
            aside: version.sequence === 'set aside',
          }"
        >
          <span class="number mono">{{ version.number }}</span>
          <span class="thumb"
            ><img
              v-if="version.preparation === 'ready' && version.kind !== 'document'"
              :src="thumbnailOf(version.id)"
              alt=""
          /></span>
          <div class="about">
            <div>
              <b class="mono">{{ version.revision || 'no revision' }}</b>
              <span :title="naming.meaning(version.status)">
                · {{ version.status }} {{ naming.meaning(version.status) }}</span
              >
              <span v-if="version.classification" class="quiet">
                · {{ version.classification }} {{ naming.meaning(version.classification) }}</span
              >
              <span :class="STATE_SIGNS[version.state]" class="state">{{ version.state }}</span>
              <b v-if="isCurrent(version)" class="current">current</b>
            </div>
            <div v-if="version.restores" class="quiet">Version {{ version.restores }} made current again</div>
            <div v-if="version.description">{{ version.description }}</div>
            <ul v-if="changesOf(version).length" class="changes">
              <li v-for="change in changesOf(version)" :key="change.key">
                <b class="mono">~</b> {{ change.key }}: {{ change.before || 'nothing' }} →
                {{ change.after || 'nothing' }}
              </li>
            </ul>
            <div v-if="version.kind === 'drawing' || version.kind === 'model'">
              <VersionChangesPanel :container-id="containerId" :version-id="version.id" />
            </div>
            <div class="quiet">
              {{ version.fileName }} · {{ bytes(version.size) }} · {{ time.moment(version.deliveredAt)
              }}<template v-if="version.source">, {{ SOURCE_WORDS[version.source] }}</template>
            </div>
            <div v-for="native in version.natives" :key="native.id" class="quiet">
              with
              <a :href="nativeOf(version.id, native.id)" download :title="`Download ${native.fileName}`">{{
                native.fileName
              }}</a>
              · {{ bytes(native.size) }}
            </div>
            <div v-if="version.preparation !== 'ready'" :class="PREPARATION_SIGNS[version.preparation]">
              {{ version.preparation }}
            </div>
            <p v-if="version.preparationNote" class="note">
              {{ version.preparationNote }}
              <button v-if="version.preparation === 'failed'" class="button-link" @click="tryAgain(version.id)">
                Try again
              </button>
            </p>
            <div v-if="version.sequence === 'conflicting'" class="decision">
              <span class="sign needs-you full">In conflict</span>
              It arrived when another version was there already, or reserved. Both are kept: which one goes on?
              <span v-if="mayChange" class="row">
                <el-button size="small" type="primary" @click="decide(version, 'take')">Go on with this one</el-button>
                <el-button size="small" @click="decide(version, 'set aside')">Set this one aside</el-button>
                <el-button size="small" @click="compare(container.versionNumber, version.number)">Compare</el-button>
              </span>
            </div>
            <span v-if="version.sequence === 'set aside'" class="sign quiet">set aside</span>
          </div>
          <PersonBadge :person="version.deliveredBy" named />
          <span class="acts">
            <a :href="fileOf(version.id)" download :aria-label="`Download version ${version.number}`" title="Download"
              ><Download :size="16"
            /></a>
            <button
              v-if="
                mayAdd && !isCurrent(version) && version.sequence === 'in sequence' && container.state !== 'archived'
              "
              class="button-link"
              :aria-label="`Make version ${version.number} current again`"
              title="Make current again: file and metadata come back as a new version"
              @click="restore(version)"
            >
              <RotateCcw :size="16" />
            </button>
          </span>
        </li>
      </ol>
      <h2>History</h2>
      <HistoryPanel type="container" :id="containerId" />
      <MoveStatesDialog
        v-if="moving"
        :containers="[container]"
        :action="moving"
        @close="moving = null"
        @done="((moving = null), refetch())"
      />
      <CompareVersionsDialog
        v-if="compared"
        v-bind="compared"
        :versions="versions"
        @choose="compare"
        @close="compare()"
      />
      <RaiseIssueDialog
        v-if="raising"
        :place="{ versionId: container.versionId, page: null, x: 0, y: 0 }"
        @close="raising = false"
      />
    </template>
  </div>
</template>

<style scoped>
.page-head {
  flex-wrap: wrap;
}
.names {
  flex-basis: 100%;
  display: grid;
  justify-items: start;
  gap: 1px;
}
.title {
  font-size: 20px;
  font-weight: 600;
  color: var(--ink);
  text-align: left;
}
.parts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  color: var(--graphite);
  font-size: 12px;
}
.parts .mono {
  color: var(--ink);
}
.versions-head {
  margin-top: 14px;
}
.versions {
  list-style: none;
  margin: 8px 0 22px;
  padding: 0;
  border: 1px solid var(--hairline);
  background: var(--sheet);
}
.versions > li {
  display: grid;
  grid-template-columns: 34px 104px 1fr auto 44px;
  gap: 14px;
  align-items: center;
  padding: 10px 14px;
  border-bottom: 1px solid var(--wash);
}
li.sought {
  background: var(--action-wash);
}
li.conflicting {
  background: var(--needs-you-wash);
}
li.aside {
  opacity: 0.65;
}
.number {
  font-size: 20px;
}
.thumb {
  width: 104px;
  height: 72px;
  display: grid;
  place-items: center;
  background: var(--paper);
}
.thumb img {
  max-width: 104px;
  max-height: 72px;
}
.state,
.current {
  margin-left: 8px;
}
.current {
  color: var(--action);
}
.changes {
  list-style: none;
  margin: 2px 0;
  padding: 0;
  font-size: 12px;
}
.changes b {
  color: #7a4fa3;
}
.note {
  margin: 4px 0 0;
}
.decision .sign {
  color: #98401f;
}
.decision {
  margin-top: 6px;
  display: grid;
  gap: 5px;
  justify-items: start;
}
.acts {
  display: flex;
  gap: 8px;
}
@media (max-width: 700px) {
  .versions > li {
    grid-template-columns: 28px minmax(0, 1fr) auto;
  }
  .versions .thumb {
    display: none;
  }
  .versions .acts {
    grid-column: 2 / -1;
    justify-self: start;
    flex-wrap: wrap;
  }
}
</style>
