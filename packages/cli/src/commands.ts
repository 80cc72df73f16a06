import fs from 'node:fs/promises';
import { IfcAPI, LogLevel } from 'web-ifc';
import { checkName, type Convention } from '@kindred/core/naming/convention';
import { conventionProblems } from '@kindred/core/naming/convention-problems';
import { splitFileName } from '@kindred/core/naming/file-name';
import { decodeText } from '@kindred/core/platform/decode-text';
import { modelInfo } from '@kindred/core/scene/model-info';
import { detectContent } from '@kindred/core/register/file-content';
import type { PreparedModel } from '@kindred/core/scene/prepare-model';
import { prepareModelFile } from '@kindred/core/scene/prepare-model-file';
import { StepError } from '@kindred/core/scene/step-reader';
import { listIssues } from '@kindred/contract/issues/issues';
import { modelNote } from '@kindred/words/files';
import { conventionProblem, sayVerdict } from '@kindred/words/naming';
import { answerIssue } from './answer.ts';
import { readBcfFile } from './bcf.ts';
import { runBcfDesk } from './bcf-desk.ts';
import { listAnnotations, writeAnnotations } from './annotations.ts';
import { deliverFiles, findPlace, findProject, known, type Metadata } from './agent.ts';
import { clientOf, readOptions, required } from './options.ts';
import { UsageError } from './problem.ts';
import { fileProgress, progressBar } from './progress.ts';
import { listClashes } from './clash.ts';
import { listModelChanges } from './model-changes.ts';
import { listSheetChanges } from './sheet-changes.ts';
import { titleBlocks } from './title-block.ts';
import { watchFolder } from './watch.ts';

async function webIfc(): Promise<IfcAPI> {
  const api = new IfcAPI();
  await api.Init();
  api.SetLogLevel(LogLevel.LOG_LEVEL_OFF);
  return api;
}

async function readModel(path: string): Promise<PreparedModel> {
  const bytes = await fs.readFile(path);
  if (!bytes.length) throw new StepError('empty');
  const { mediaType } = await detectContent(bytes);
  return prepareModelFile(bytes, mediaType, webIfc);
}

async function isSameFile(a: string, b: string): Promise<boolean> {
  return (await fs.readFile(a)).equals(await fs.readFile(b));
}

/** Metres. */
function millimetres(said: string, option: string): number {
  const value = Number(said);
  if (said.trim() === '' || !Number.isFinite(value) || value < 0)
    throw new UsageError(`--${option} is no length`, `“${said}” is no number of millimetres from 0 up.`);
  return value / 1000;
}

interface Answer {
  data: unknown;
  text: string;
  /** How many things were found that someone should look at. */
  findings?: number;
}
interface Command {
  usage: string;
  run(args: string[]): Promise<Answer>;
}

export const commands: Record<string, Command> = {
  'model-info': {
    usage: 'M.ifc [--json]',
    async run([path]) {
      if (!path) throw new UsageError('model-info needs a file', 'Usage: ks model-info M.ifc [--json]');
      const info = modelInfo(await readModel(path));
      const data = { ...info, notes: info.notes.map((note) => `${note.code}: ${modelNote(note)}`) };
      const classes = Object.entries(data.byClass).sort(([, a], [, b]) => b - a);
      return {
        data,
        text: [
          `${data.schema} from ${data.application || 'an unnamed program'}, lengths in ${data.lengthUnit}`,
          `${data.elements} elements, ${data.triangles} triangles`,
          ...classes.map(([name, count]) => `  ${name.padEnd(28)} ${count}`),
          ...data.storeys.map(
            ({ name, elevation, elements }) => `  storey ${name} at ${elevation ?? '?'} m: ${elements}`,
          ),
          ...info.notes.map(modelNote),
        ].join('\n'),
      };
    },
  },
  'model-changes': {
    usage: 'A.ifc B.ifc [--json] [--fail-on-findings]',
    async run([before, after]) {
      if (!before || !after)
        throw new UsageError('model-changes needs two models', 'Usage: ks model-changes A.ifc B.ifc [--json]');
      return listModelChanges(await readModel(before), await readModel(after));
    },
  },
  clash: {
    usage: 'A.ifc B.ifc [--tolerance-mm 1] [--clearance-mm N] [--json] [--fail-on-findings]',
    async run(args) {
      const { values, positionals } = readOptions(args);
      const [a, b] = positionals;
      if (!a || !b) throw new UsageError('clash needs two models', 'Usage: ks clash A.ifc B.ifc [--tolerance-mm 1]');
      const settings = {
        tolerance: millimetres(values['tolerance-mm'] ?? '1', 'tolerance-mm'),
        clearance: millimetres(values['clearance-mm'] ?? '0', 'clearance-mm'),
      };
      const one = await readModel(a);
      // A file against itself: what of it is in its own way.
      return listClashes(one, (await isSameFile(a, b)) ? one : await readModel(b), settings);
    },
  },
  'check-names': {
    usage: 'CONVENTION.json NAME… [--json] [--fail-on-findings]',
    async run([path, ...names]) {
      if (!path || !names.length)
        throw new UsageError('check-names needs a convention and names', 'Usage: ks check-names CONVENTION.json NAME…');
      const convention = await readConvention(path);
      const data = names.map((name) => ({ ...sayVerdict(checkName(convention, splitFileName(name).stem)), name }));
      const text = data
        .map(({ name, ok, fields, problem }) => {
          const wrong = fields
            .filter((field) => !field.ok)
            .map(({ field, problem, nearest }) => `${field} ${problem}${nearest ? ` (nearest: ${nearest})` : ''}`);
          return ok ? `${name}: conforms` : `${name}: ${[problem, ...wrong].filter(Boolean).join('; ')}`;
        })
        .join('\n');
      return { data, text, findings: data.filter(({ ok }) => !ok).length };
    },
  },
  'title-block': {
    usage: 'S.pdf [--json]',
    async run([path]) {
      if (!path) throw new UsageError('title-block needs a file', 'Usage: ks title-block S.pdf [--json]');
      const pages = await titleBlocks(path);
      const text = pages
        .map(({ page, ...fields }) => {
          const found = Object.entries(fields).filter(([, value]) => value);
          return `${page}: ${found.map(([field, value]) => `${field} ${value}`).join(' · ') || 'no title block found'}`;
        })
        .join('\n');
      return { data: { pages }, text, findings: pages.filter(({ number }) => !number).length };
    },
  },
  annotations: {
    usage: 'S.pdf [--xfdf OUT.xfdf] [--json]',
    async run(args) {
      const { values, positionals } = readOptions(args);
      const [path] = positionals;
      if (!path) throw new UsageError('annotations needs a file', 'Usage: ks annotations S.pdf [--xfdf OUT.xfdf]');
      return listAnnotations(path, values.xfdf);
    },
  },
  annotate: {
    usage: 'S.pdf MARKS.xfdf --out OUT.pdf [--flatten] [--json]',
    async run(args) {
      const { values, positionals } = readOptions(args);
      const [path, marks] = positionals;
      if (!path || !marks)
        throw new UsageError(
          'annotate needs a PDF and an XFDF file',
          'Usage: ks annotate S.pdf MARKS.xfdf --out OUT.pdf',
        );
      return writeAnnotations(path, marks, values.out, values.flatten ?? false);
    },
  },
  bcf: {
    usage: 'B.bcf [--to 2.1|3.0 --out C.bcf] [--json]',
    async run(args) {
      const { values, positionals } = readOptions(args);
      const [path] = positionals;
      if (!path) throw new UsageError('bcf needs a file', 'Usage: ks bcf B.bcf [--to 2.1|3.0 --out C.bcf]');
      return readBcfFile(path, values.to, values.out);
    },
  },
  'bcf-desk': {
    usage: 'FOLDER --server URL --project P [--every SECONDS | --once]',
    async run(args) {
      const { values, positionals } = readOptions(args);
      const folder = positionals[0];
      if (!folder) throw new UsageError('bcf-desk needs a folder', 'Usage: ks bcf-desk FOLDER --project P');
      const client = clientOf(values);
      const projectId = await findProject(client, required(values.project, 'project'));
      const { server = 'http://127.0.0.1:8420' } = values;
      await runBcfDesk({
        ...{ folder, projectId, server: server.replace(/\/$/, ''), token: process.env.KS_TOKEN! },
        ...(!values.once && { every: seconds(values.every, 2) }),
        say: (line) => console.error(line),
        signal: stopping(),
      });
      return { data: null, text: 'Stopped.' };
    },
  },
  'sheet-changes': {
    usage: 'A.pdf B.pdf [--overlay OUT.png] [--json]',
    async run(args) {
      const { values, positionals } = readOptions(args);
      const [before, after] = positionals;
      if (!before || !after)
        throw new UsageError(
          'sheet-changes needs two PDF files',
          'Usage: ks sheet-changes A.pdf B.pdf [--overlay OUT.png]',
        );
      return listSheetChanges(before, after, values.overlay);
    },
  },
  deliver: {
    usage: '--server URL --project P --folder "A / B" FILE… [--status S] [--revision R] [--title T] [--lenient]',
    async run(args) {
      const { values, positionals: files } = readOptions(args);
      if (!files.length) throw new UsageError('deliver needs files', 'Usage: ks deliver --project P --folder F FILE…');
      const place = await findPlace(
        clientOf(values),
        required(values.project, 'project'),
        required(values.folder, 'folder'),
      );
      const bar = progressBar();
      const wanted = [];
      for (const path of files) wanted.push({ path, onto: (await known(place, path))?.versionNumber ?? 0 });
      const delivered = await deliverFiles(
        place,
        wanted,
        metadataOf(values),
        !values.lenient,
        fileProgress(bar),
        stopping(),
      );
      bar.end();
      return {
        data: delivered,
        text: delivered
          .map(({ code, version, conflicting, atIntake }) => {
            const where = atIntake ? ', at the intake' : conflicting ? ', in conflict until somebody decides' : '';
            return `${code}: version ${version}${where}`;
          })
          .join('\n'),
        findings: delivered.filter(({ atIntake, conflicting }) => atIntake || conflicting).length,
      };
    },
  },
  watch: {
    usage: 'FOLDER --server URL --project P --folder "A / B" [--status S] [--settle SECONDS] [--every SECONDS]',
    async run(args) {
      const { values, positionals } = readOptions(args);
      const folder = positionals[0];
      if (!folder) throw new UsageError('watch needs a folder', 'Usage: ks watch FOLDER --project P --folder F');
      const place = await findPlace(
        clientOf(values),
        required(values.project, 'project'),
        required(values.folder, 'folder'),
      );
      console.error(`Watching ${folder}. Ctrl-C ends it.`);
      await watchFolder({
        folder,
        place,
        metadata: metadataOf(values),
        every: seconds(values.every, 2),
        settle: seconds(values.settle, 4),
        say: (line) => console.log(line),
        signal: stopping(),
      });
      return { data: null, text: 'Stopped.' };
    },
  },
  issues: {
    usage: '--server URL --project P [--json]',
    async run(args) {
      const { values } = readOptions(args);
      const client = clientOf(values);
      const projectId = await findProject(client, required(values.project, 'project'));
      const { items } = await client.call(listIssues, { params: { projectId }, query: { limit: 200 } });
      const text = items.map(({ number, title, status, priority }) => `${number} ${title} (${status}, ${priority})`);
      return { data: items, text: text.join('\n') || 'No issues.' };
    },
  },
  answer: {
    usage: 'NUMBER [WORDS…] [--with FILE [--folder "A / B"]] --server URL --project P',
    async run(args) {
      const { values, positionals } = readOptions(args);
      const [number, ...words] = positionals;
      if (!/^\d{1,9}$/.test(number ?? '') || !(words.length || values.with))
        throw new UsageError(
          'answer needs a number, and words or a file',
          'Usage: ks answer 12 "Moved by 30 mm" --project P, or ks answer 12 --with PLAN.pdf --project P',
        );
      const client = clientOf(values);
      const projectId = await findProject(client, required(values.project, 'project'));
      return answerIssue({ client, projectId }, Number(number), words.join(' '), values.with, values.folder);
    },
  },
};

const metadataOf = ({ status, revision, title, classification, description }: Metadata): Metadata =>
  Object.fromEntries(
    Object.entries({ status, revision, title, classification, description }).filter(([, value]) => value !== undefined),
  );

function seconds(value: string | undefined, otherwise: number): number {
  const number = value === undefined ? otherwise : Number(value);
  if (!(number >= 0)) throw new UsageError('No number of seconds', `“${value}” is not a number of seconds.`);
  return number * 1000;
}

/** Ends what is going on when the person does, cleanly. */
function stopping(): AbortSignal {
  const controller = new AbortController();
  for (const name of ['SIGINT', 'SIGTERM'] as const) process.once(name, () => controller.abort());
  return controller.signal;
}

async function readConvention(path: string): Promise<Convention> {
  const { text } = decodeText(await fs.readFile(path));
  let convention: unknown;
  try {
    convention = JSON.parse(text.replace(/^\ufeff/, ''));
  } catch (error) {
    throw new UsageError(`${path} is not JSON`, (error as Error).message);
  }
  const [problem] = conventionProblems(convention);
  if (problem) throw new UsageError(`${path} is not a convention that can be used`, conventionProblem(problem));
  return convention as Convention;
}
