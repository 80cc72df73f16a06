/** `backup FOLDER`, `restore FOLDER`, `check`: for operators, beside a server that runs. */
import { capabilities } from './capabilities.ts';
import { backUp, check, restore } from './backup.ts';
import { configFrom } from './platform/config.ts';
import { openDatabase } from './platform/database.ts';
import { storeFor } from './platform/storage/choose.ts';

const [command, folder] = process.argv.slice(2);
const config = configFrom(process.env);
const installation = { databaseUrl: config.databaseUrl, store: await storeFor(config) };
const megabytes = (bytes: number): string => `${Math.round(bytes / 1e6)} MB`;

try {
  if (command === 'backup' && folder) {
    const made = await backUp(installation, folder);
    console.log(
      `Copied to ${folder}: the database as of ${made.at}, ${made.blobs} files (${megabytes(made.bytes)}), ${made.copied} of them new.`,
    );
  } else if (command === 'restore' && folder) {
    const { at, blobs } = await restore(installation, folder);
    console.log(
      `Restored: the database as of ${at}, ${blobs} files. Start the server; it brings the database up to date.`,
    );
  } else if (command === 'check') {
    const handle = openDatabase(config.databaseUrl, 2);
    const { blobs, damaged, missing } = await check(handle.db, installation.store, capabilities.blobs);
    await handle.pool.end();
    for (const sha256 of damaged) console.log(`damaged  ${sha256}`);
    for (const sha256 of missing) console.log(`missing  ${sha256}`);
    console.log(`${blobs} files checked: ${damaged.length} damaged, ${missing.length} missing.`);
    if (damaged.length || missing.length) process.exitCode = 1;
  } else {
    console.error('npm run backup -- FOLDER | npm run restore -- FOLDER | npm run check');
    process.exitCode = 2;
  }
} catch (error) {
  console.error((error as Error).message);
  process.exitCode = 1;
}
