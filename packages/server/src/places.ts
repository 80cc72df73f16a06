/** Where the server finds what is not its own code, whether it runs as built or from its sources. */
import { createRequire } from 'node:module';
import path from 'node:path';

const built = !import.meta.filename.endsWith('.ts');
/** Both `src/` and the folder that is built lie in the package. */
const packageFolder = path.resolve(import.meta.dirname, '..');
export const MIGRATIONS = path.join(packageFolder, 'migrations');

/** Code of this server and of what it stands on: what a process of ours has to read. */
const CODE = [
  `${path.resolve(packageFolder, '..')}/*`,
  path.resolve(packageFolder, '../../package.json'),
  path.resolve(packageFolder, '../../node_modules/*'),
];

/** The program that preparation runs in, and how Node is to run it: as built it may read its own code and nothing else. */
export const PREPARATION_PROCESS = built
  ? {
      confined: true,
      file: path.join(packageFolder, 'dist/preparation-process.mjs'),
      execArgv: [
        '--experimental-permission',
        '--allow-addons',
        // The recogniser of words works in a thread of its own, under the same permissions.
        '--allow-worker',
        '--disable-warning=ExperimentalWarning',
        ...CODE.map((place) => `--allow-fs-read=${place}`),
      ],
    }
  : {
      confined: false,
      file: path.join(packageFolder, 'src/preparation/process.ts'),
      execArgv: ['--import', import.meta.resolve('tsx')],
    };

/** Folder of what the recogniser knows of letters. */
export const LETTERS = path.join(
  path.dirname(createRequire(import.meta.url).resolve('@tesseract.js-data/eng/package.json')),
  '4.0.0_best_int',
);

/** Folder of pdf.js, with the character maps, fonts and decoders that drawings may need. */
export const PDFJS = path.dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'));
