import { fork } from 'node:child_process';
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

/** Fills an empty installation with the demo, through the public API. */
export async function loadDemo(address, clockSecret) {
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
