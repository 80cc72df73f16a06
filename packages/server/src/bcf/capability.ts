import * as contract from '@kindred/contract/bcf/bcf';
import type { Capability } from '../platform/capability.ts';
import { route } from '../platform/http.ts';
import { bcfExport, startBcfExport } from './export.ts';

export const bcf: Capability = {
  name: 'bcf',
  routes: (platform) => [route(contract.startBcfExport, ({ actor, body }) => startBcfExport(platform, actor, body))],
  longJobs: [bcfExport],
};
