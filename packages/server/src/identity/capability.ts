import { sql } from 'drizzle-orm';
import { removeOldGrants } from './programs.ts';
import type { Capability } from '../platform/capability.ts';
import { waitingRows } from '../platform/subjects.ts';
import { sendDailyMail } from './mail-choices.ts';
import { identityRoutes } from './routes.ts';
import { notices } from './schema.ts';

export const identity: Capability = {
  name: 'identity',
  routes: identityRoutes,
  subjects: [
    {
      type: 'notice',
      from: sql`${notices}`,
      id: sql`${notices.id}`,
      title: sql`${notices.text}`,
      note: sql`''`,
      path: sql`${notices.link}`,
      at: sql`${notices.at}`,
      inProject: (projectId) => sql`${notices.projectId} = ${projectId}`,
      visibleTo: (member) => sql`${notices.userId} = ${member.id}`,
      waiting: (member) => [
        waitingRows({
          pile: 'new for me',
          type: 'notice',
          id: sql`n.id`,
          title: sql`n.text`,
          note: sql`''`,
          path: sql`n.link`,
          at: sql`n.at`,
          of: sql`from notices n where n.project_id = ${member.projectId} and n.user_id = ${member.id} and n.read_at is null`,
        }),
      ],
    },
  ],
  jobs: ({ outbox, db }) => [
    {
      queue: 'daily-mail',
      parallel: 1,
      cron: '0 6 * * *',
      async run() {
        await sendDailyMail(outbox, db);
      },
    },
    {
      queue: 'old-grants',
      parallel: 1,
      cron: '0 5 * * *',
      run: () => removeOldGrants({ db }),
    },
  ],
};
