/** The start of the server, compiled, against the same from its sources; two gigabytes into an object store, against writing and hashing them. */
import { createFirstPerson } from '@kindred/contract/identity/identity';
import { createProject } from '@kindred/contract/portfolio/portfolio';
import { fork } from 'node:child_process';
import { once } from 'node:events';
import path from 'node:path';
import { ApiPerson } from '../../packages/demo/src/client.ts';
import { buildProgram } from '../build.mjs';
import { startObjectStore } from '../object-store.mjs';
import { startServer } from '../server.mjs';
import { openStage } from '../stage.mjs';
import { putLarge, receiveLarge } from './large-file.ts';
import { ratio, report, timed } from './measure.ts';

const stage = await openStage({ demo: false, env: { KS_REQUESTS_PER_SECOND: '0' } });
const environment = {
  DATABASE_URL: stage.databaseUrl,
  PORT: '0',
  KS_DATA: path.join(stage.folder, 'started'),
  KS_ROLE: 'web',
};

async function started(program: string, execArgv: string[]): Promise<number> {
  const child = fork(program, {
    execArgv,
    env: { ...process.env, ...environment },
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  });
  const time = await timed(() => once(child, 'message'));
  child.kill('SIGKILL');
  await once(child, 'exit');
  return time;
}

try {
  const compiled = await buildProgram('server');
  report(
    'start of the server until it listens, ms, against the start from its sources',
    await ratio(
      () => started(compiled, []),
      () => started('packages/server/src/main.ts', ['--import', 'tsx']),
      3,
    ),
    { atMost: 0.5 },
  );

  const store = await startObjectStore();
  const { endpoint, region, bucket, key, secret } = store.settings;
  const server = await startServer({
    ...environment,
    KS_STORAGE: 's3',
    KS_S3_ENDPOINT: endpoint,
    KS_S3_REGION: region,
    KS_S3_BUCKET: bucket,
    KS_S3_KEY: key,
    KS_S3_SECRET: secret,
  });
  try {
    const person = new ApiPerson(server.address, '');
    await person.call(createFirstPerson, {
      body: { name: 'Bench', email: 'bench@test.example', password: 'a long enough password' },
    });
    const { id } = await person.call(createProject, { body: { name: 'Bench', number: 'BEN', kind: 'Other' } });
    report(
      'receiving 2 GB into an object store, ms, against putting them there at once and hashing them',
      await ratio(
        () => receiveLarge(server.address, person, id),
        () => putLarge(store.settings),
        1,
      ),
      { atMost: 1.6 },
    );
  } finally {
    await server.stop();
    await store.close();
  }
} finally {
  await stage.close();
}
