import type { Capability } from '../platform/capability.ts';
import { preparationJobs } from './jobs.ts';

export const preparation: Capability = { name: 'preparation', work: preparationJobs };
