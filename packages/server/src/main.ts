import { configFrom } from './platform/config.ts';
import { startServer } from './server.ts';

const config = configFrom(process.env);
const server = await startServer(config);
process.send?.({ ready: server.port });
server.platform.log.info(`Kindred Sheet on http://${config.host}:${server.port}`);

// Once those who came with the start have their first pages.
setTimeout(() => void server.platform.capabilities.warm(), 5000).unref();

const PATIENCE_MS = 12_000;
let stopping = false;
function stop(patience = PATIENCE_MS): void {
  if (stopping) return;
  stopping = true;
  setTimeout(() => process.exit(0), patience).unref();
  void server.close().finally(() => process.exit(0));
}
process.on('SIGINT', () => stop());
process.on('SIGTERM', () => stop());
// Started by another program that is gone: the port must be free for whoever starts us again.
process.on('disconnect', () => stop(500));
process.on('unhandledRejection', (error) => server.platform.log.error({ err: error }, 'unhandled rejection'));
