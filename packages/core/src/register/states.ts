import type { Transitions } from '../platform/machine.ts';

export const CONTAINER_STATES = ['work in progress', 'shared', 'published', 'archived'] as const;
export type ContainerState = (typeof CONTAINER_STATES)[number];
/** What a project sets gates for. */
export type GatedAction = 'share' | 'publish' | 'archive' | 'withdraw';
export type ContainerAction = GatedAction | 'bring back';

/** ISO 19650-1, 12: information containers pass from work in progress to shared, published and archived. */
export const containerTransitions: Transitions<ContainerState, ContainerAction> = {
  'work in progress': { share: 'shared' },
  shared: { publish: 'published', archive: 'archived', withdraw: 'work in progress' },
  published: { archive: 'archived', withdraw: 'shared' },
  // It comes back to where everybody sees it; to be published it passes that gate anew.
  archived: { 'bring back': 'shared' },
};

export const PREPARATION_STATES = ['received', 'checking', 'preparing', 'ready', 'failed'] as const;
export type Preparation = (typeof PREPARATION_STATES)[number];
export type PreparationAction = 'check' | 'prepare' | 'finish' | 'fail' | 'retry';

/** A killed worker leaves `checking` or `preparing` behind, so both may begin again. */
export const preparationTransitions: Transitions<Preparation, PreparationAction> = {
  received: { check: 'checking', fail: 'failed' },
  checking: { check: 'checking', prepare: 'preparing', finish: 'ready', fail: 'failed' },
  preparing: { check: 'checking', finish: 'ready', fail: 'failed' },
  ready: { check: 'checking' },
  failed: { retry: 'received', check: 'checking' },
};

/** Who an entry of the register is for: its team, the others, or all of them alike. */
export type Audience = 'all' | 'team' | 'others';

/** `conflicting`: arrived on top of a version that was no longer the latest, or of another's reservation, and waits for a decision. */
export const VERSION_SEQUENCES = ['in sequence', 'conflicting', 'set aside'] as const;
export type VersionSequence = (typeof VERSION_SEQUENCES)[number];

export const DELIVERY_SOURCES = ['browser', 'agent', 'program'] as const;
export type DeliverySource = (typeof DELIVERY_SOURCES)[number];

/** How a team came to use another's version. */
export const USES = ['opened', 'downloaded', 'received', 'reviewed'] as const;
export type Use = (typeof USES)[number];
