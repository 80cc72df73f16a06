import { fork } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { buildProgram } from './build.mjs';
import { root } from './prepare.mjs';

/** Starts the server and waits until it listens. */
export async function startServer(env) {
  const child = fork(await buildProgram('server'), {
    cwd: root,
    execArgv: ['--enable-source-maps'],
    env: { ...process.env, ...env },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  const port = await new Promise((resolve, reject) => {
    child.on('message', ({ ready }) => ready && resolve(ready));
    child.once('exit', (code) => reject(new Error(`The server ended before it was ready (code ${code}).`)));
  });
  const ended = new Promise((resolve) => child.once('exit', resolve));
  return {
    address: `http://127.0.0.1:${port}`,
    child,
    ended,
    async stop() {
      if (child.exitCode === null) child.kill('SIGTERM');
      await ended;
    },
  };
}

/**
 * Starts an installation that says `starting` until the demo is in it; one that has people already is left as it is.
 * `started` hears of each server process, `loading` when the demo begins to come in.
 */
export async function startWithDemo(env, { started = () => undefined, loading = () => undefined } = {}) {
  const clockSecret = randomBytes(24).toString('hex');
  const first = await startServer({ ...env, KS_DEMO_CLOCK: clockSecret, KS_LOADING: '1' });
  started(first);
  const { firstPerson } = await (await fetch(`${first.address}/api/sign-in`)).json();
  if (firstPerson) {
    loading();
    await loadDemo(first.address, clockSecret);
  }
  await first.stop();
  const server = await startServer({ ...env, ...(firstPerson && { KS_DEMO: '1' }) });
  started(server);
  return { loaded: firstPerson, server };
}

/** Fills an empty installation with the demo, through the public API. */
async function loadDemo(address, clockSecret) {
  const child = fork(await buildProgram('demo'), [address], {
    cwd: root,
    execArgv: ['--enable-source-maps'],
    env: { ...process.env, KS_DEMO_CLOCK: clockSecret },
    stdio: 'inherit',
  });
  const code = await new Promise((resolve) => child.once('exit', resolve));
  if (code !== 0)
    throw new Error('Loading the demo failed: see above. “npm start” tries it anew, “--empty” does without it.');
}
