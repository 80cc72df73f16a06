import * as contract from '@kindred/contract/bcf/bcf';
import { sql } from 'drizzle-orm';
import type { Capability } from '../platform/capability.ts';
import { route } from '../platform/http.ts';
import { bcfExport, startBcfExport } from './export.ts';
import { bcfReading, showReading, startBcfImport } from './reading.ts';
import { standardRoutes } from './standards.ts';
import { bcfImport, takeBcfImport } from './taking.ts';
import { listBcfTransfers } from './transfers.ts';

export const bcf: Capability = {
  name: 'bcf',
  routes: (platform) => [
    route(contract.startBcfExport, ({ actor, body }) => startBcfExport(platform, actor, body)),
    route(contract.startBcfImport, ({ actor, body }) => startBcfImport(platform, actor, body.uploadId)),
    route(contract.showBcfImport, ({ actor, params }) => showReading(platform, actor, params.jobId!)),
    route(contract.takeBcfImport, ({ actor, params, body }) => takeBcfImport(platform, actor, params.jobId!, body)),
    route(contract.listBcfTransfers, ({ actor, query }) => listBcfTransfers(platform, actor, query)),
  ],
  standards: standardRoutes,
  longJobs: [bcfExport, bcfReading, bcfImport],
  blobs: [
    sql`select topics_sha256 as sha256 from bcf_readings`,
    sql`select unnest(file_hashes) as sha256 from bcf_readings`,
    sql`select unnest(files) as sha256 from bcf_topics`,
  ],
};
