import type { ContainerState, DeliverySource, Preparation } from '@kindred/core/register/states';

/** How a state looks: a sign and a colour, always with its word. */
export const STATE_SIGNS: Record<ContainerState, string> = {
  'work in progress': 'sign quiet',
  shared: 'sign info',
  published: 'sign action full',
  archived: 'sign quiet full',
};
/** From where a version came. */
export const SOURCE_WORDS: Record<DeliverySource, string> = {
  browser: 'delivered here',
  agent: 'by the agent of a folder',
  program: 'by a program',
};
export const PREPARATION_SIGNS: Record<Preparation, string> = {
  received: 'sign quiet round',
  checking: 'sign info round',
  preparing: 'sign info round full',
  ready: 'sign action round full',
  failed: 'sign needs-you round full',
};
