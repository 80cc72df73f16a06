/** What is found in models that were prepared: they are read from what their preparation kept. */
import { compareModels } from '@kindred/core/compare/compare-models';
import { countChanges } from '@kindred/core/compare/change-counts';
import { listModelChanges } from '@kindred/core/compare/list-model-changes';
import { readPreparedModel, type ModelContent } from '@kindred/core/scene/prepared-files';
import fs from 'node:fs/promises';
import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';
import type { FoundModelChanges, KeptFile, ModelFiles, ModelQuestion } from './messages.ts';

const inflate = promisify(gunzip);

export async function findInModels({ models }: ModelQuestion): Promise<FoundModelChanges> {
  const [before, after] = [await readModel(models[0]!), await readModel(models[1]!)];
  const found = compareModels(before, after);
  const changes = listModelChanges(before.table, after.table, found);
  return { shift: found.shift, changes, counts: countChanges(changes) };
}

async function readModel({ scenes, elements, properties }: ModelFiles): Promise<ModelContent> {
  const parts = [];
  for (const scene of scenes) parts.push(bufferOf(await contentOf(scene)));
  return readPreparedModel(parts, (await contentOf(elements)).toString(), bufferOf(await contentOf(properties)));
}

async function contentOf({ path, gzipped }: KeptFile): Promise<Buffer> {
  const bytes = await fs.readFile(path);
  return gzipped ? inflate(bytes) : bytes;
}

const bufferOf = (bytes: Buffer): ArrayBuffer => new Uint8Array(bytes).buffer;
