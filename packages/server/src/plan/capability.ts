import type { Capability } from '../platform/capability.ts';
import { planRoutes } from './routes.ts';
import { moveLinks } from './service.ts';

export const plan: Capability = { name: 'plan', routes: planRoutes, placed: moveLinks };
