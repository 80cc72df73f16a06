import type { Capability } from '../platform/capability.ts';
import { askForRecognition, recognitionJobs } from './recognition.ts';
import { drawingRoutes } from './routes.ts';

export const drawing: Capability = {
  name: 'drawing',
  routes: drawingRoutes,
  work: recognitionJobs,
  prepared: askForRecognition,
};
