import fs from 'node:fs/promises';
import { IfcAPI, LogLevel } from 'web-ifc';
import { checkName, type Convention } from '@kindred/core/naming/convention';
import { modelInfo } from '@kindred/core/scene/model-info';
import { prepareModel } from '@kindred/core/scene/prepare-model';
import { StepError } from '@kindred/core/scene/step-reader';
import { UsageError } from './problem.ts';

interface Answer {
  data: unknown;
  text: string;
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
    usage: 'CONVENTION.json NAME… [--json]',
    async run([path, ...names]) {
      if (!path || !names.length)
        throw new UsageError('check-names needs a convention and names', 'Usage: ks check-names CONVENTION.json NAME…');
      const convention = JSON.parse(await fs.readFile(path, 'utf8')) as Convention;
      if (!Array.isArray(convention.fields) || !convention.separator)
        throw new UsageError(`${path} is no convention`, 'A convention has a name, a separator and fields.');
      const data = names.map((name) => checkName(convention, name));
      const text = data
        .map(({ name, ok, fields, problem }) => {
          const wrong = fields
            .filter((field) => !field.ok)
            .map(({ field, problem, nearest }) => `${field} ${problem}${nearest ? ` (nearest: ${nearest})` : ''}`);
          return ok ? `${name}: conforms` : `${name}: ${[problem, ...wrong].filter(Boolean).join('; ')}`;
        })
        .join('\n');
      return { data, text };
    },
  },
};
