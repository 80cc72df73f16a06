import type { Capability } from '../platform/capability.ts';
import { insightRoutes } from './routes.ts';

export const insight: Capability = { name: 'insight', routes: insightRoutes };
