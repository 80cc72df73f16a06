import type { Logger } from 'pino';
import type { Capabilities } from './capability.ts';
import type { Tell } from './change.ts';
import type { Config } from './config.ts';
import type { DatabaseHandle } from './database.ts';
import type { Gate } from './gate.ts';
import type { Jobs } from './jobs.ts';
import type { Live } from './live.ts';
import type { Outbox } from './mail.ts';
import type { BlobStore } from './storage/store.ts';
import type { Subjects } from './subjects.ts';

/** What every capability stands on, made once when the server starts. */
export interface Platform extends DatabaseHandle {
  config: Config;
  log: Logger;
  store: BlobStore;
  jobs: Jobs;
  outbox: Outbox;
  live: Pick<Live, 'announce' | 'end' | 'close'>;
  gate: Gate;
  capabilities: Capabilities;
  subjects: Subjects;
  tell: Tell;
}
