import type { Capability } from '../platform/capability.ts';
import { drawingRoutes } from './routes.ts';

export const drawing: Capability = { name: 'drawing', routes: drawingRoutes };
