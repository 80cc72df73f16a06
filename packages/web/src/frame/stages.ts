import type { ProjectView } from '@kindred/contract/portfolio/portfolio';
import type { Action, Kind, WorkArea } from '@kindred/core/people/rights';
import { ArrowLeftRight, Drill, MessagesSquare, ScanEye, Send } from '@lucide/vue';
import type { Component } from 'vue';

export interface StageView {
  word: string;
  route: string;
  needs: Kind;
  /** The right it takes; to see when absent. */
  action?: Action;
  administrators?: boolean;
  /** Other routes that belong to this view. */
  also?: string[];
}
export interface Stage {
  word: WorkArea;
  icon: Component;
  views: StageView[];
  /** Nothing in it can be selected, so there is nothing to relate. */
  unrelated?: boolean;
  /** Kinds of things that wait for somebody here. */
  waiting: string[];
}

/** The five stages of the work, in its order: the five places of the application. */
export const STAGES: Stage[] = [
  {
    word: 'Set up',
    icon: Drill,
    views: [
      { word: 'Project', route: 'details', needs: 'project' },
      { word: 'People', route: 'people', needs: 'people' },
      { word: 'Roles', route: 'roles', needs: 'people' },
      { word: 'Folders', route: 'folders', needs: 'register' },
      { word: 'Naming', route: 'naming', needs: 'register' },
      { word: 'Gates', route: 'gates', needs: 'register' },
      { word: 'Types of issues', route: 'issue-settings', needs: 'issues' },
      { word: 'Title blocks', route: 'title-blocks', needs: 'register' },
      { word: 'Stamps', route: 'stamps', needs: 'markup' },
      { word: 'Audit trail', route: 'audit', needs: 'project', administrators: true },
    ],
    unrelated: true,
    waiting: [],
  },
  {
    word: 'Exchange',
    icon: ArrowLeftRight,
    views: [
      { word: 'Register', route: 'register', needs: 'register', also: ['container'] },
      { word: 'Upload desk', route: 'upload-desk', needs: 'register', action: 'add' },
      { word: 'Intake', route: 'intake', needs: 'register' },
      { word: 'Sheet register', route: 'sheet-register', needs: 'register' },
      { word: 'Share sets', route: 'share-sets', needs: 'register', action: 'change' },
      { word: 'Board', route: 'board', needs: 'register' },
      { word: 'Bin', route: 'bin', needs: 'register', action: 'delete' },
    ],
    waiting: ['intake', 'decision'],
  },
  {
    word: 'Examine',
    icon: ScanEye,
    views: [
      { word: 'Sheets', route: 'sheets', needs: 'register', also: ['sheet-changes'] },
      { word: 'Compare files', route: 'two-files', needs: 'register' },
      { word: 'Scene', route: 'scene', needs: 'scene', also: ['model-changes'] },
      { word: 'Federations', route: 'federations', needs: 'scene' },
      { word: 'Clashes', route: 'clashes', needs: 'scene' },
      { word: 'Viewpoints', route: 'viewpoints', needs: 'scene', also: ['scene-beside'] },
    ],
    waiting: ['markup'],
  },
  {
    word: 'Resolve',
    icon: MessagesSquare,
    views: [
      { word: 'Issues', route: 'issues', needs: 'issues', also: ['issue'] },
      { word: 'Reviews', route: 'reviews', needs: 'review', also: ['review'] },
    ],
    waiting: ['issue', 'review'],
  },
  {
    word: 'Send',
    icon: Send,
    views: [{ word: 'Transmittals', route: 'transmittals', needs: 'transmittal', also: ['transmittal'] }],
    waiting: ['transmittal'],
  },
];

export const stageOf = (route: string): Stage | undefined =>
  STAGES.find(({ views }) => views.some((view) => view.route === route || view.also?.includes(route)));

/** How much waits for somebody at a stage. */
export const waitingAt = ({ waiting }: Stage, counts: ProjectView['waiting']): number =>
  waiting.reduce((sum, type) => sum + (counts[type] ?? 0), 0);

export const viewOf = (route: string): StageView | undefined =>
  STAGES.flatMap(({ views }) => views).find((view) => view.route === route || view.also?.includes(route));
