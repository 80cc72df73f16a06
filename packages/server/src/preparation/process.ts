/** Entry of the preparation process: takes one task after another from its parent. */
import { prepareFile } from './prepare-file.ts';
import type { PreparationTask } from './messages.ts';

process.on('message', (task: PreparationTask) => {
  void prepareFile(task, (answer) => process.send!(answer)).then((answer) => process.send!(answer));
});
process.on('disconnect', () => process.exit());
