import { AsyncLocalStorage } from 'node:async_hooks';

const pretended = new AsyncLocalStorage<Date>();

/** Now; while the demo is loaded, the moment that the request pretends. */
export const now = (): Date => pretended.getStore() ?? new Date();

export const at = <T>(moment: Date, run: () => T): T => pretended.run(moment, run);
