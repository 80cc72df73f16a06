import fs from 'node:fs/promises';
import { IfcAPI, LogLevel } from 'web-ifc';
import { checkName, type Convention } from '@kindred/core/naming/convention';
import { conventionProblems } from '@kindred/core/naming/convention-problems';
import { splitFileName } from '@kindred/core/naming/file-name';
import { decodeText } from '@kindred/core/platform/decode-text';
import { modelInfo } from '@kindred/core/scene/model-info';
import { prepareModel } from '@kindred/core/scene/prepare-model';
import { StepError } from '@kindred/core/scene/step-reader';
import { UsageError } from './problem.ts';

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
      const bytes = await fs.readFile(path);
      if (!bytes.length) throw new StepError('The file is empty.');
      const api = new IfcAPI();
      await api.Init();
      api.SetLogLevel(LogLevel.LOG_LEVEL_OFF);
      const data = modelInfo(prepareModel(bytes, api));
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
          ...data.notes,
        ].join('\n'),
      };
    },
  },
  'check-names': {
    usage: 'CONVENTION.json NAME… [--json] [--fail-on-findings]',
    async run([path, ...names]) {
      if (!path || !names.length)
        throw new UsageError('check-names needs a convention and names', 'Usage: ks check-names CONVENTION.json NAME…');
      const convention = await readConvention(path);
      const data = names.map((name) => ({ ...checkName(convention, splitFileName(name).stem), name }));
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
};

async function readConvention(path: string): Promise<Convention> {
  const { text } = decodeText(await fs.readFile(path));
  let convention: unknown;
  try {
    convention = JSON.parse(text.replace(/^\ufeff/, ''));
  } catch (error) {
    throw new UsageError(`${path} is not JSON`, (error as Error).message);
  }
  const [problem] = conventionProblems(convention);
  if (problem) throw new UsageError(`${path} is not a convention that can be used`, problem.message);
  return convention as Convention;
}
