<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import { RouterLink, RouterView, useRoute } from 'vue-router';
import { CircleQuestionMark, Link2, LogOut, Search, Upload } from '@lucide/vue';
import { useSession } from '../identity/store.ts';
import { isTyping } from '../platform/keyboard.ts';
import { useLive } from '../platform/live.ts';
import PersonBadge from '../platform/PersonBadge.vue';
import { useProject } from '../portfolio/store.ts';
import BellPanel from './BellPanel.vue';
import JobsPanel from './JobsPanel.vue';
import JumpDialog from './JumpDialog.vue';
import { useUploads } from '../register/uploads.ts';
import { useRelated } from '../things/related.ts';
import RelatedPanel from '../things/RelatedPanel.vue';
import ProjectsPanel from './ProjectsPanel.vue';
import { STAGES, stageOf, viewOf, waitingAt } from './stages.ts';
import { pageSubject } from '../platform/page-title.ts';

const route = useRoute();
const session = useSession();
const project = useProject();
const live = useLive();
const related = useRelated();
const uploads = useUploads();
const desk = computed(() => uploads.deskIn(project.projectId));
const jumping = ref(false);
const HelpLayer = defineAsyncComponent(() => import('./HelpLayer.vue'));
const explaining = ref(false);

const stage = computed(() => stageOf(String(route.name)));
const views = computed(() =>
  (stage.value?.views ?? []).filter(
    ({ needs, action = 'see', administrators }) =>
      project.may(needs, action) && (!administrators || project.view?.me.administrator),
  ),
);
const stages = computed(() => {
  const areas = project.view?.me.workAreas;
  return areas ? STAGES.filter(({ word }) => areas.includes(word)) : STAGES;
});
/** Pages outside of projects. */
const TITLES: Record<string, string> = {
  portfolio: 'Projects',
  outbox: 'Simulated outbox',
  desk: 'My desk',
  me: 'Me',
  api: 'API',
};
const unknown = computed(() => project.projectId && project.error);

watch(
  () => project.projectId,
  (projectId) => {
    related.select(null);
    if (projectId) live.enter(projectId);
  },
  { immediate: true },
);
watch(
  () => [
    pageSubject.value,
    TITLES[String(route.name)] ?? viewOf(String(route.name))?.word,
    project.projectId && project.view?.project.name,
  ],
  (parts) => void (document.title = [...parts, 'Kindred Sheet'].filter(Boolean).join(' · ')),
  { immediate: true },
);

useEventListener('keydown', (event: KeyboardEvent) => {
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
    event.preventDefault();
    jumping.value = true;
  } else if (event.key === '?' && !isTyping(event.target)) explaining.value = true;
  else if (
    event.key.toLowerCase() === 'k' &&
    !event.ctrlKey &&
    !event.metaKey &&
    !event.altKey &&
    !isTyping(event.target)
  )
    related.toggle();
});
</script>

<template>
  <div class="frame" :class="{ 'with-project': project.projectId }">
    <header class="top">
      <RouterLink class="home" to="/" title="All projects"
        ><img src="/mark.svg" alt="Kindred Sheet" width="24" height="24"
      /></RouterLink>
      <ProjectsPanel data-help="frame/projects" />
      <button v-if="project.projectId" class="jump" data-help="frame/jump" @click="jumping = true">
        <Search :size="14" /> <span>Jump to a container, sheet, issue, person or place</span> <kbd>Ctrl K</kbd>
      </button>
      <span class="spread" />
      <span v-if="!live.connected" class="sign caution">Offline: what you see may be old</span>
      <span class="present" role="group" aria-label="Who is here"
        ><PersonBadge v-for="person in live.present" :key="person.id" :person="person"
      /></span>
      <RouterLink
        v-if="desk"
        class="desk-badge"
        :to="{ name: 'upload-desk', params: project.params }"
        :title="`Upload desk: ${desk.waiting} on the way, ${desk.arrived} to deliver`"
        :aria-label="`Upload desk: ${desk.waiting} on the way, ${desk.arrived} to deliver`"
        ><Upload :size="17" :stroke-width="1.5" /><b>{{ desk.arrivals.length }}</b></RouterLink
      >
      <JobsPanel v-if="project.projectId" />
      <span data-help="frame/bell"><BellPanel /></span>
      <el-dropdown v-if="session.me" trigger="click">
        <button class="me" title="Your menu" data-help="frame/me">
          <PersonBadge :person="session.me" named />
        </button>
        <template #dropdown>
          <el-dropdown-menu>
            <el-dropdown-item @click="$router.push('/desk')">My desk</el-dropdown-item>
            <el-dropdown-item @click="$router.push('/me')">Me, my mail, my tokens</el-dropdown-item>
            <el-dropdown-item @click="$router.push('/outbox')">Simulated outbox</el-dropdown-item>
            <el-dropdown-item @click="$router.push('/help/api')">API</el-dropdown-item>
            <el-dropdown-item @click="explaining = true">Explain this page (?)</el-dropdown-item>
            <el-dropdown-item divided @click="session.end()"
              ><LogOut :size="14" style="margin-right: 6px" /> Sign out</el-dropdown-item
            >
          </el-dropdown-menu>
        </template>
      </el-dropdown>
    </header>
    <nav
      v-if="project.projectId"
      v-arrow-keys="'a'"
      class="rail"
      aria-label="Stages of the work"
      data-help="frame/stages"
    >
      <RouterLink
        v-for="item in stages"
        :key="item.word"
        :to="{ name: item.views[0]!.route, params: { projectId: project.projectId } }"
        class="stage"
        :class="{ here: item === stage }"
      >
        <component :is="item.icon" :size="18" :stroke-width="1.5" />
        <span>{{ item.word }}</span>
        <b v-if="project.view && waitingAt(item, project.view.waiting)" title="waiting for you">{{
          waitingAt(item, project.view.waiting)
        }}</b>
      </RouterLink>
    </nav>
    <nav
      v-if="project.projectId"
      v-arrow-keys="'a'"
      class="views"
      aria-label="Views of the stage"
      data-help="frame/views"
    >
      <RouterLink
        v-for="view in views"
        :key="view.route"
        :to="{ name: view.route, params: { projectId: project.projectId } }"
        :class="{ here: route.name === view.route || view.also?.includes(String(route.name)) }"
      >
        {{ view.word }}
      </RouterLink>
      <span class="spread" />
      <button
        class="related-toggle explain"
        title="Explain this page (?)"
        aria-label="Explain this page"
        @click="explaining = true"
      >
        <CircleQuestionMark :size="15" :stroke-width="1.5" />
      </button>
      <button
        v-if="!stage?.unrelated"
        class="related-toggle"
        data-help="frame/related"
        :aria-pressed="related.open"
        @click="related.toggle()"
      >
        <Link2 :size="14" /> <span>Related</span> <kbd>K</kbd>
      </button>
    </nav>
    <main class="work">
      <div v-if="unknown" class="page">
        <div class="empty">
          <h2>There is no such project, or you are not in it</h2>
          <p><RouterLink to="/">See your projects</RouterLink></p>
        </div>
      </div>
      <RouterView v-else :key="project.projectId" />
    </main>
    <RelatedPanel v-if="project.projectId && related.open && related.selected && !stage?.unrelated" />
    <HelpLayer v-if="explaining" @close="explaining = false" />
    <JumpDialog v-if="jumping" @close="jumping = false" />
  </div>
</template>

<style scoped>
.frame {
  height: 100%;
  display: grid;
  grid-template: 44px 1fr / 1fr;
  grid-template-areas: 'top' 'work';
}
.frame.with-project {
  grid-template: 44px 34px 1fr / 72px 1fr auto;
  grid-template-areas: 'top top top' 'rail views views' 'rail work related';
}
.top {
  grid-area: top;
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 0 14px 0 24px;
  border-bottom: 1px solid var(--hairline);
  background: var(--sheet);
}
.home {
  display: flex;
}
.jump {
  display: flex;
  align-items: center;
  gap: 8px;
  height: 28px;
  padding: 0 8px;
  border: 1px solid var(--hairline);
  border-radius: 3px;
  background: var(--paper);
  color: var(--graphite);
  font: inherit;
  font-size: 12px;
  cursor: text;
  min-width: 0;
}
.jump span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
kbd {
  font: 10.5px var(--mono);
  border: 1px solid var(--hairline);
  border-radius: 3px;
  padding: 0 4px;
  color: var(--graphite);
  background: var(--sheet);
}
.present {
  display: flex;
  gap: 2px;
}
.me {
  border: 0;
  background: none;
  font: inherit;
  cursor: pointer;
  padding: 4px;
  color: var(--ink);
}
.rail {
  grid-area: rail;
  border-right: 1px solid var(--hairline);
  display: flex;
  flex-direction: column;
}
.stage {
  position: relative;
  display: grid;
  justify-items: center;
  gap: 4px;
  padding: 13px 0 10px;
  color: var(--graphite);
  font-size: 12px;
  border-bottom: 1px solid var(--hairline);
}
.stage:hover {
  text-decoration: none;
  background: var(--wash);
}
.stage.here {
  background: var(--sheet);
  color: var(--ink);
  font-weight: 600;
  box-shadow: inset 3px 0 var(--action);
}
.stage b {
  position: absolute;
  top: 6px;
  right: 10px;
  min-width: 17px;
  padding: 0 4px;
  font: 600 10.5px/17px var(--mono);
  text-align: center;
  color: #fff;
  background: var(--needs-you);
  border-radius: 3px;
}
.views {
  grid-area: views;
  display: flex;
  align-items: stretch;
  gap: 22px;
  padding: 0 14px 0 22px;
  border-bottom: 1px solid var(--hairline);
}
.views a {
  display: flex;
  align-items: center;
  color: var(--graphite);
}
.views a.here {
  color: var(--ink);
  font-weight: 600;
  box-shadow: inset 0 -2px var(--action);
}
.desk-badge {
  position: relative;
  display: flex;
  padding: 6px;
  color: var(--ink);
}
.desk-badge b {
  position: absolute;
  top: -1px;
  right: -5px;
  font: 600 10px/15px var(--mono);
  min-width: 15px;
  padding: 0 3px;
  color: #fff;
  background: var(--action);
  border-radius: 3px;
}
.related-toggle {
  display: flex;
  align-items: center;
  gap: 6px;
  border: 0;
  background: none;
  font: inherit;
  color: var(--graphite);
  cursor: pointer;
}
.related-toggle[aria-pressed='true'] {
  color: var(--ink);
}
.work {
  grid-area: work;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
}
@media (max-width: 1099px) {
  .frame.with-project {
    grid-template: 44px auto minmax(0, 1fr) / 72px minmax(0, 1fr);
    grid-template-areas: 'top top' 'rail views' 'rail work';
  }
}
@media (max-width: 700px) {
  .top {
    gap: 8px;
    padding: 0 10px;
  }
  .jump {
    min-width: 36px;
    height: 34px;
    justify-content: center;
  }
  .explain,
  .jump span,
  .jump kbd,
  .related-toggle kbd,
  .present {
    display: none;
  }
  .me :deep(.person > span:nth-child(2)),
  .related-toggle span {
    position: absolute;
    width: 1px;
    overflow: hidden;
    clip-path: inset(50%);
  }
  .frame.with-project {
    grid-template: 44px auto minmax(0, 1fr) 56px / minmax(0, 1fr);
    grid-template-areas: 'top' 'views' 'work' 'rail';
  }
  .rail {
    flex-direction: row;
    border-right: 0;
    border-top: 1px solid var(--hairline);
    background: var(--sheet);
  }
  .stage {
    flex: 1;
    padding: 8px 0 6px;
    border-bottom: 0;
  }
  .stage.here {
    box-shadow: inset 0 3px var(--action);
  }
  .stage b {
    right: calc(50% - 26px);
  }
  .views {
    flex-wrap: wrap;
    gap: 0 18px;
    padding: 0 14px;
  }
  .views a,
  .related-toggle {
    min-height: 36px;
  }
  .related-toggle {
    min-width: 36px;
    justify-content: center;
  }
}
</style>
