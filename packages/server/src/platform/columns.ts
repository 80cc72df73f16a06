import { integer, timestamp, uuid } from 'drizzle-orm/pg-core';

export const primaryId = () => uuid('id').primaryKey().defaultRandom();
export const moment = (name: string) => timestamp(name, { withTimezone: true, precision: 3 });
/** Rises with each change; a change that names an older one is refused. */
export const edition = () => integer('edition').notNull().default(1);
