import type { Capability } from '../platform/capability.ts';
import { planRoutes } from './routes.ts';

export const plan: Capability = { name: 'plan', routes: planRoutes };
