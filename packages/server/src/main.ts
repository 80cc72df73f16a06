import { configFrom } from './platform/config.ts';
import { startServer } from './server.ts';

const config = configFrom(process.env);
const server = await startServer(config);
process.send?.({ ready: server.port });
server.platform.log.info(`Kindred Sheet on http://${config.host}:${server.port}`);

let stopping = false;
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => {
    if (stopping) return;
    stopping = true;
    void server.close().finally(() => process.exit(0));
  });
// Started by another program: it is gone, so are we.
process.on('disconnect', () => void server.close().finally(() => process.exit(0)));
process.on('unhandledRejection', (error) => server.platform.log.error({ err: error }, 'unhandled rejection'));
