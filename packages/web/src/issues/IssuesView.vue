<script setup lang="ts">
import { startBcfExport } from '@kindred/contract/bcf/bcf';
import { ISSUE_GROUPS, type IssueGroupBy } from '@kindred/contract/issues/issues';
import { startIssueReport, type IssueReportKind } from '@kindred/contract/issues/report';
import { BCF_VERSIONS, type BcfVersion } from '@kindred/core/bcf/bcf-file';
import { counted } from '@kindred/words/sentence';
import { Flag } from '@lucide/vue';
import { computed, ref } from 'vue';
import BcfTransfersDialog from '../bcf/BcfTransfersDialog.vue';
import ImportBcfDialog from '../bcf/ImportBcfDialog.vue';
import { call } from '../platform/api.ts';
import { useJobs } from '../platform/jobs-store.ts';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import SavedViewsPanel from '../register/SavedViewsPanel.vue';
import ChangeManyDialog from './ChangeManyDialog.vue';
import { useChosenIssues } from './chosen-issues.ts';
import IssueBoardPanel from './IssueBoardPanel.vue';
import IssueCalendarPanel from './IssueCalendarPanel.vue';
import IssueChartsPanel from './IssueChartsPanel.vue';
import IssueFilterPanel from './IssueFilterPanel.vue';
import IssueMapPanel from './IssueMapPanel.vue';
import IssueTablePanel from './IssueTablePanel.vue';
import { ISSUE_LOOKS, useIssueView, type IssueLook } from './issue-view.ts';
import RaiseIssueDialog from './RaiseIssueDialog.vue';

const project = useProject();
const view = useIssueView();
const chosen = useChosenIssues();
const raising = ref(false);
const changing = ref(false);
const mayAct = computed(() => project.may('issues', 'add'));
const GROUP_WORDS: Record<IssueGroupBy, string> = {
  status: 'by status',
  type: 'by type',
  priority: 'by priority',
  responsible: 'by who answers',
  team: 'by team',
  label: 'by label',
  raisedBy: 'by who raised them',
};
const PANELS = {
  board: IssueBoardPanel,
  calendar: IssueCalendarPanel,
  map: IssueMapPanel,
  charts: IssueChartsPanel,
} satisfies Partial<Record<IssueLook, unknown>>;

const dialog = ref<'import' | 'transfers'>();
function passOn(what: BcfVersion | 'import' | 'transfers'): void {
  if (what === 'import' || what === 'transfers') dialog.value = what;
  else void exportBcf(what);
}
const jobs = useJobs();
const report = (as: IssueReportKind): Promise<boolean> =>
  attempt(async () =>
    jobs.follow(
      await call(startIssueReport, {
        params: project.params,
        body: { as, ...view.filters.value, ...view.order.value },
      }),
    ),
  );
const exportBcf = (version: BcfVersion): Promise<boolean> =>
  attempt(async () =>
    jobs.follow(await call(startBcfExport, { params: project.params, body: { version, ...view.filters.value } })),
  );
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Issues</h1>
      <div class="looks" role="tablist" aria-label="How issues are shown" data-help="issues/looks">
        <button
          v-for="(word, look) in ISSUE_LOOKS"
          :key="look"
          role="tab"
          :aria-selected="view.look.value === look"
          @click="view.set({ as: look === 'table' ? undefined : look })"
        >
          {{ word }}
        </button>
      </div>
      <span class="spread" />
      <SavedViewsPanel
        list="issues"
        bells
        :view-id="view.query('view')"
        :definition="view.definition.value"
        @show="view.show"
      />
      <el-dropdown trigger="click" data-help="issues/report" @command="report">
        <el-button>Report</el-button>
        <template #dropdown
          ><el-dropdown-menu
            ><el-dropdown-item command="pdf">As PDF, an issue a page</el-dropdown-item
            ><el-dropdown-item command="xlsx">As XLSX</el-dropdown-item></el-dropdown-menu
          ></template
        >
      </el-dropdown>
      <el-dropdown trigger="click" data-help="issues/bcf" @command="passOn">
        <el-button>BCF</el-button>
        <template #dropdown
          ><el-dropdown-menu
            ><el-dropdown-item v-for="version in BCF_VERSIONS.toReversed()" :key="version" :command="version"
              >Export as BCF {{ version }}</el-dropdown-item
            ><el-dropdown-item v-if="project.may('issues', 'change')" command="import" divided
              >Bring in a BCF file …</el-dropdown-item
            ><el-dropdown-item command="transfers">What left and came in …</el-dropdown-item></el-dropdown-menu
          ></template
        >
      </el-dropdown>
      <el-button v-if="mayAct" type="primary" @click="raising = true"
        ><Flag :size="15" style="margin-right: 5px" /> Raise issue</el-button
      >
    </div>
    <div class="row filters">
      <IssueFilterPanel :view="view" />
      <span class="spread" />
      <label v-if="view.look.value === 'table'" class="quiet"
        >Group
        <select
          :value="view.groupBy.value ?? ''"
          @change="view.set({ group: ($event.target as HTMLSelectElement).value || undefined })"
        >
          <option value="">mine first</option>
          <option v-for="by in ISSUE_GROUPS" :key="by" :value="by">{{ GROUP_WORDS[by] }}</option>
        </select></label
      >
    </div>
    <IssueTablePanel v-if="view.look.value === 'table'" :view="view" :chosen="chosen" />
    <component :is="PANELS[view.look.value]" v-else :view="view" />
    <div v-if="chosen.list.value.length" class="bar" role="region" aria-label="Chosen issues">
      <b>{{ counted(chosen.list.value.length, 'issue') }} chosen</b>
      <el-button v-if="mayAct" type="primary" @click="changing = true">Change …</el-button>
      <button class="button-link" @click="chosen.clear()">Choose none</button>
    </div>
    <ChangeManyDialog v-if="changing" :issues="chosen.list.value" @done="chosen.clear()" @close="changing = false" />
    <RaiseIssueDialog v-if="raising" @close="raising = false" />
    <ImportBcfDialog v-if="dialog === 'import'" @close="dialog = undefined" />
    <BcfTransfersDialog v-if="dialog === 'transfers'" @close="dialog = undefined" />
  </div>
</template>

<style scoped>
.looks {
  display: flex;
  border: 1px solid var(--hairline);
  border-radius: 3px;
  overflow: hidden;
}
.looks button {
  border: 0;
  background: var(--sheet);
  color: var(--graphite);
  min-height: 28px;
  padding: 0 10px;
  font: inherit;
  cursor: pointer;
}
.looks button + button {
  border-left: 1px solid var(--hairline);
}
.looks button[aria-selected='true'] {
  background: var(--ink);
  color: #fff;
}
.filters {
  flex-wrap: wrap;
  gap: 8px;
  margin-bottom: 10px;
}
.bar {
  position: sticky;
  bottom: 0;
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 8px 12px;
  background: var(--paper);
  border-top: 1px solid var(--hairline);
}
</style>
