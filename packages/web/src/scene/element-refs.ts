import type { IssueElement } from '@kindred/contract/issues/ties';
import { rowOf, slotOf } from './engine/element-numbers.ts';
import type { LoadedModel } from './models.ts';

const MOST = 200;

/** Elements as things outside of a scene name them: the first few hundred. */
export const elementRefs = (models: readonly LoadedModel[], elements: Iterable<number>): IssueElement[] =>
  [...elements].slice(0, MOST).flatMap((element) => {
    const model = models.find(({ slot }) => slot === slotOf(element));
    const globalId = model?.table.globalId[rowOf(element)];
    if (!model || !globalId) return [];
    return [{ versionId: model.versionId, globalId, name: (model.table.name[rowOf(element)] ?? '').slice(0, 200) }];
  });
