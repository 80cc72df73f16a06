/** What is found in models that were prepared: they are read from what their preparation kept. */
import { runRule, type RuledPair } from '@kindred/core/clash/run-rule';
import { compareModelsAsWholes } from '@kindred/core/compare/compare-models';
import { countChanges } from '@kindred/core/compare/change-counts';
import { listModelChanges } from '@kindred/core/compare/list-model-changes';
import { placeScene, placeTable } from '@kindred/core/scene/placing';
import { readPreparedModel, type ModelContent } from '@kindred/core/scene/prepared-files';
import fs from 'node:fs/promises';
import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';
import type { DrawnModels } from './draw-models.ts';
import type { ClashQuestion, FoundModelChanges, KeptFile, ModelFiles, ModelQuestion } from './messages.ts';

const inflate = promisify(gunzip);

export async function findInModels({
  models,
  clashes,
  picture,
}: ModelQuestion): Promise<FoundModelChanges | RuledPair | DrawnModels> {
  if (picture) {
    const { drawModels } = await import('./draw-models.ts');
    return drawModels(models, picture);
  }
  const contents: ModelContent[] = [];
  for (const files of models) contents.push(await readModel(files));
  const [one, other = one] = (clashes ? placed(contents, clashes) : contents) as [ModelContent, ModelContent?];
  return clashes ? clashesBetween(one, other, clashes) : changesBetween(one, other);
}

const placed = (contents: readonly ModelContent[], { placings }: ClashQuestion): ModelContent[] =>
  contents.map((content, i) => {
    const placing = placings[i];
    if (!placing) return content;
    return { ...content, scene: placeScene(content.scene, placing), table: placeTable(content.table, placing) };
  });

function changesBetween(before: ModelContent, after: ModelContent): FoundModelChanges {
  const found = compareModelsAsWholes(before, after);
  const changes = listModelChanges(before.table, after.table, found);
  const renamed = found.unchanged.filter((pair) => pair.renamed).length;
  return { motion: found.motion, changes, counts: countChanges(changes), renamed };
}

function clashesBetween(
  one: ModelContent,
  other: ModelContent,
  { rule, parts, shown, carried }: ClashQuestion,
): RuledPair {
  const a = { content: one, parts: parts[0]!, shown: shown[0]! };
  const b = one === other ? a : { content: other, parts: parts[1]!, shown: shown[1]! };
  const known = carried && { a: new Set(carried.a), b: new Set(carried.b), clashes: carried.clashes };
  return runRule(rule, a, b, known);
}

async function readModel({ scenes, elements, properties }: ModelFiles): Promise<ModelContent> {
  const parts = [];
  for (const scene of scenes) parts.push(bufferOf(await contentOf(scene)));
  return readPreparedModel(parts, (await contentOf(elements)).toString(), bufferOf(await contentOf(properties)));
}

export async function contentOf({ path, gzipped }: KeptFile): Promise<Buffer> {
  const bytes = await fs.readFile(path);
  return gzipped ? inflate(bytes) : bytes;
}

export const bufferOf = (bytes: Buffer): ArrayBuffer => new Uint8Array(bytes).buffer;
