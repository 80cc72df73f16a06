import { fork } from 'node:child_process';
import path from 'node:path';
import { root } from './prepare.mjs';

/** Starts the server and waits until it listens. */
export async function startServer(env) {
  const child = fork(path.join(root, 'packages/server/src/main.ts'), {
    cwd: root,
    execArgv: ['--import', 'tsx', '--disable-warning=ExperimentalWarning'],
    env: { ...process.env, ...env },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  const port = await new Promise((resolve, reject) => {
    child.once('message', ({ ready }) => resolve(ready));
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
  const child = fork(path.join(root, 'packages/demo/src/main.ts'), [address], {
    cwd: root,
    execArgv: ['--import', 'tsx', '--disable-warning=ExperimentalWarning'],
    env: { ...process.env, KS_DEMO_CLOCK: clockSecret },
    stdio: 'inherit',
  });
  const code = await new Promise((resolve) => child.once('exit', resolve));
  if (code !== 0)
    throw new Error(
      'Loading the demo failed: see above. “npm start -- --reset” begins anew, “--empty” does without it.',
    );
}
