import * as contract from '@kindred/contract/platform/jobs';
import { sql } from 'drizzle-orm';
import type { Capability } from './capability.ts';
import { healthRoutes } from './health.ts';
import { route } from './http.ts';
import { cancelLongJob, listLongJobs, removeOldLongJobs, resultOf, tryLongJobAgain } from './long-jobs.ts';
import { sendBlob } from './send-blob.ts';

export const platformCapability: Capability = {
  name: 'platform',
  blobs: [sql`select sha256 from long_jobs where sha256 is not null`],
  /** What only a team may know of is known to the one that takes over. */
  async passTeamOn({ db }, { projectId, fromId, toId }) {
    await db.execute(sql`update events set team_id = ${toId} where project_id = ${projectId} and team_id = ${fromId}`);
  },
  jobs: (platform) => [
    {
      queue: 'upkeep',
      parallel: 1,
      cron: '15 3 * * *',
      async run() {
        await removeOldLongJobs(platform);
        await platform.db.execute(sql`delete from rate_limits where expire < extract(epoch from now()) * 1000`);
      },
    },
  ],
  routes: (platform) => [
    ...healthRoutes(platform),
    route(contract.listLongJobs, ({ actor }) => listLongJobs(platform, actor)),
    route(contract.cancelLongJob, ({ actor, params }) => cancelLongJob(platform, actor, params.jobId!)),
    route(contract.tryLongJobAgain, ({ actor, params }) => tryLongJobAgain(platform, actor, params.jobId!)),
    route(contract.downloadLongJob, async ({ actor, params, response }) => {
      const { sha256, fileName, mediaType } = await resultOf(platform, actor, params.jobId!);
      response.attachment(fileName);
      await sendBlob(platform, response, sha256, mediaType);
      return null;
    }),
  ],
};
