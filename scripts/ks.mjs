/** `npm run -s ks -- …`: the command line, built when its sources have changed. */
import { installPackages } from './prepare.mjs';

installPackages();
const { buildProgram } = await import('./build.mjs');
await import(await buildProgram('cli'));
