import { createRouter, createWebHistory } from 'vue-router';
import { sayProblem } from './platform/say.ts';
import { useSession } from './identity/store.ts';

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/sign-in', name: 'sign-in', component: () => import('./identity/SignInView.vue') },
    { path: '/authorize', name: 'authorize', component: () => import('./identity/AuthorizeView.vue') },
    {
      path: '/',
      component: () => import('./frame/FrameView.vue'),
      children: [
        { path: '', name: 'portfolio', component: () => import('./portfolio/PortfolioView.vue') },
        { path: 'outbox', name: 'outbox', component: () => import('./identity/OutboxView.vue') },
        { path: 'desk', name: 'desk', component: () => import('./insight/DeskView.vue') },
        { path: 'me', name: 'me', component: () => import('./identity/MeView.vue') },
        { path: 'help/api', name: 'api', component: () => import('./identity/ApiView.vue') },
        {
          path: 'projects/:projectId',
          children: [
            { path: '', name: 'project', redirect: (to) => ({ name: 'register', params: to.params }) },
            { path: 'details', name: 'details', component: () => import('./portfolio/ProjectDetailsView.vue') },
            { path: 'people', name: 'people', component: () => import('./people/PeopleView.vue') },
            { path: 'roles', name: 'roles', component: () => import('./people/RolesView.vue') },
            { path: 'folders/:folderId?', name: 'folders', component: () => import('./register/FoldersView.vue') },
            { path: 'naming', name: 'naming', component: () => import('./naming/NamingView.vue') },
            { path: 'title-blocks', name: 'title-blocks', component: () => import('./drawing/TitleBlocksView.vue') },
            { path: 'stamps', name: 'stamps', component: () => import('./markup/StampsView.vue') },
            {
              path: 'issue-settings',
              name: 'issue-settings',
              component: () => import('./issues/IssueSettingsView.vue'),
            },
            { path: 'gates', name: 'gates', component: () => import('./register/GatesView.vue') },
            { path: 'audit', name: 'audit', component: () => import('./insight/AuditView.vue') },
            { path: 'board', name: 'board', component: () => import('./register/BoardView.vue') },
            { path: 'upload-desk', name: 'upload-desk', component: () => import('./register/UploadDeskView.vue') },
            { path: 'bin', name: 'bin', component: () => import('./register/BinView.vue') },
            { path: 'share-sets', name: 'share-sets', component: () => import('./register/ShareSetsView.vue') },
            {
              path: 'sheet-register',
              name: 'sheet-register',
              component: () => import('./drawing/SheetRegisterView.vue'),
            },
            { path: 'register', name: 'register', component: () => import('./register/RegisterView.vue') },
            { path: 'intake', name: 'intake', component: () => import('./register/IntakeView.vue') },
            {
              path: 'containers/:containerId',
              name: 'container',
              component: () => import('./register/ContainerView.vue'),
            },
            { path: 'sheets/:containerId?', name: 'sheets', component: () => import('./drawing/SheetsView.vue') },
            {
              path: 'sheets/:containerId/changes',
              name: 'sheet-changes',
              component: () => import('./compare/SheetChangesView.vue'),
            },
            {
              path: 'models/:containerId/changes',
              name: 'model-changes',
              component: () => import('./compare/ModelChangesView.vue'),
            },
            { path: 'two-files', name: 'two-files', component: () => import('./compare/TwoFilesView.vue') },
            { path: 'scene', name: 'scene', component: () => import('./scene/SceneView.vue') },
            {
              path: 'scene/beside',
              name: 'scene-beside',
              component: () => import('./scene/SceneBesideView.vue'),
            },
            {
              path: 'federations',
              name: 'federations',
              component: () => import('./federation/FederationsView.vue'),
            },
            { path: 'clashes/:ruleId?', name: 'clashes', component: () => import('./clash/ClashesView.vue') },
            { path: 'viewpoints', name: 'viewpoints', component: () => import('./scene/ViewpointsView.vue') },
            { path: 'issues', name: 'issues', component: () => import('./issues/IssuesView.vue') },
            { path: 'issues/:issueId', name: 'issue', component: () => import('./issues/IssueView.vue') },
            { path: 'reviews', name: 'reviews', component: () => import('./review/ReviewsView.vue') },
            { path: 'reviews/:reviewId', name: 'review', component: () => import('./review/ReviewView.vue') },
            {
              path: 'transmittals',
              name: 'transmittals',
              component: () => import('./transmittal/TransmittalsView.vue'),
            },
            {
              path: 'transmittals/:transmittalId',
              name: 'transmittal',
              component: () => import('./transmittal/TransmittalView.vue'),
            },
          ],
        },
        { path: ':rest(.*)*', name: 'nowhere', component: () => import('./frame/NowhereView.vue') },
      ],
    },
  ],
});

router.onError(sayProblem);
router.beforeEach(async (to) => {
  if (to.name === 'sign-in') return true;
  const session = useSession();
  if (await session.ensure()) return true;
  return { name: 'sign-in', query: { then: to.fullPath } };
});
