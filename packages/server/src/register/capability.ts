import { sql } from 'drizzle-orm';
import type { Capability } from '../platform/capability.ts';
import { alone, KEEP_BLOBS } from '../platform/database.ts';
import { emptyBin } from './bin.ts';
import { cleanUp } from './clean-up.ts';
import { warmWorkbooks } from '../platform/workbook.ts';
import { registerExport } from './export.ts';
import { passTeamOn } from './passing-on.ts';
import { registerRoutes } from './routes.ts';
import { registerSubjects } from './subjects.ts';
import { foldersTemplate } from './template.ts';

export const register: Capability = {
  name: 'register',
  routes: registerRoutes,
  template: foldersTemplate,
  subjects: registerSubjects,
  blobs: [
    sql`select sha256 from versions`,
    sql`select sha256 from products`,
    sql`select sha256 from natives`,
    sql`select sha256 from uploads where sha256 is not null`,
  ],
  longJobs: [registerExport],
  warm: warmWorkbooks,
  passTeamOn,
  jobs: (platform) => [
    {
      queue: 'clean-up',
      parallel: 1,
      cron: '30 2 * * *',
      async run() {
        // While a copy of the installation is made, what it names has to stay.
        await alone(platform, KEEP_BLOBS, async () => {
          await emptyBin(platform);
          await cleanUp(platform);
        });
      },
    },
  ],
};
