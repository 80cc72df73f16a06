/** A model as its preparation kept it: all parts of its scene, its table, its properties. */
import { decodeScene, type ScenePackage } from './package.ts';
import { joinScenes } from './parts.ts';
import type { ElementTable } from './prepare-model.ts';
import { decodeProperties, type DecodedProperties } from './property-file.ts';

export interface ModelContent {
  scene: ScenePackage;
  table: ElementTable;
  properties: DecodedProperties;
}

/** `scenes`: in the order of the parts. */
export function readPreparedModel(
  scenes: readonly ArrayBuffer[],
  elements: string,
  properties: ArrayBuffer,
): ModelContent {
  return {
    scene: joinScenes(scenes.map(decodeScene)),
    table: JSON.parse(elements) as ElementTable,
    properties: decodeProperties(properties),
  };
}
