/** Compiles what runs in Node: each program once, as plain JavaScript beside its sources' package. */
import { build } from 'esbuild';
import fs from 'node:fs';
import path from 'node:path';
import { isCurrent, markCurrent, root } from './prepare.mjs';

/** Program → its entries, by the name of what is built. */
const PROGRAMS = {
  server: { main: 'src/main.ts', 'preparation-process': 'src/preparation/process.ts', upkeep: 'src/upkeep.ts' },
  cli: { main: 'src/main.ts' },
  demo: { main: 'src/main.ts' },
};
const COPIED = { server: ['src/platform/storage/hash-thread.mjs'] };
const SHARED = [
  'packages/core/src',
  'packages/contract/src',
  'packages/archive/src',
  'packages/words/src',
  'packages/client/src',
  'package-lock.json',
  'scripts/build.mjs',
];

/** Packages of our own become part of the program; all others are loaded from where they are installed. */
const ownPackages = {
  name: 'own-packages',
  setup({ onResolve }) {
    onResolve({ filter: /^@kindred\// }, ({ path: name }) => {
      const [, own, ...rest] = name.split('/');
      return { path: path.join(root, 'packages', own, 'src', `${rest.join('/')}.ts`) };
    });
    onResolve({ filter: /^[^./]/ }, ({ path: name, kind }) =>
      kind === 'entry-point' ? undefined : { path: name, external: true },
    );
  },
};

/** Builds a program when a source is newer than the last build; answers its main file. */
export async function buildProgram(name) {
  const folder = path.join(root, 'packages', name);
  const outdir = path.join(folder, 'dist');
  const main = path.join(outdir, 'main.mjs');
  const sources = [`packages/${name}/src`, ...SHARED];
  const marker = path.join(outdir, '.sources');
  if (fs.existsSync(main) && isCurrent(marker, sources)) return main;
  const { outputFiles } = await build({
    write: false,
    entryPoints: Object.fromEntries(
      Object.entries(PROGRAMS[name]).map(([entry, file]) => [entry, path.join(folder, file)]),
    ),
    outdir,
    bundle: true,
    // What is loaded when it is used stays in a file of its own.
    splitting: true,
    format: 'esm',
    platform: 'node',
    target: 'node20',
    outExtension: { '.js': '.mjs' },
    chunkNames: '[name]-[hash]',
    sourcemap: 'linked',
    legalComments: 'none',
    logLevel: 'warning',
    plugins: [ownPackages],
  });
  fs.mkdirSync(outdir, { recursive: true });
  for (const { path: file, contents } of outputFiles) writeWhole(file, contents);
  for (const file of COPIED[name] ?? [])
    writeWhole(path.join(outdir, path.basename(file)), fs.readFileSync(path.join(folder, file)));
  markCurrent(marker, sources);
  return main;
}

/** Whole or not at all: somebody else may build, or start, the same program at this moment. */
function writeWhole(file, contents) {
  const beside = `${file}.${process.pid}`;
  fs.writeFileSync(beside, contents);
  fs.renameSync(beside, file);
}
