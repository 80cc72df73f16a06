/** What the installation does by itself, day by day. */
import { sendDailyMail } from '../identity/mail-choices.ts';
import { CLEAN_UP, DAILY_MAIL } from '../preparation/queue.ts';
import { cleanUp } from '../register/clean-up.ts';
import type { Platform } from './services.ts';

export async function startUpkeep(platform: Platform): Promise<void> {
  const { jobs, outbox, db } = platform;
  await jobs.work(DAILY_MAIL, 1, async () => void (await sendDailyMail(outbox, db)));
  await jobs.work(CLEAN_UP, 1, async () => void (await cleanUp(platform)));
  await jobs.schedule(DAILY_MAIL, '0 6 * * *');
  await jobs.schedule(CLEAN_UP, '30 2 * * *');
}
