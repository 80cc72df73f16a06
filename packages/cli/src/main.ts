import { UsageError, problemOf } from './problem.ts';
import { commands } from './commands.ts';

const [name = '', ...rest] = process.argv.slice(2);
const FLAGS = ['--json', '--fail-on-findings'];
const json = rest.includes('--json');

try {
  const command = commands[name];
  if (!command)
    throw new UsageError(
      `Unknown command “${name}”`,
      `Commands: ${Object.entries(commands)
        .map(([word, { usage }]) => `${word} ${usage}`)
        .join(' · ')}`,
    );
  const answer = await command.run(rest.filter((word) => !FLAGS.includes(word)));
  console.log(json ? JSON.stringify(answer.data) : answer.text);
  if (answer.findings && rest.includes('--fail-on-findings')) process.exitCode = 1;
} catch (error) {
  const problem = problemOf(error);
  console.error(json ? JSON.stringify(problem) : `${problem.title}: ${problem.detail}`);
  process.exitCode = 2;
}
