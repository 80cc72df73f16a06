/** A model in any of the formats that the scene opens. */
import type { IfcAPI } from 'web-ifc';
import { MODEL_TYPES } from '../register/file-content.ts';
import { prepareMeshes } from './mesh-scene.ts';
import { prepareModel, type PreparedModel } from './prepare-model.ts';

/** `mediaType`: as its content says; `webIfc`: asked for where it is no mesh. */
export async function prepareModelFile(
  bytes: Uint8Array,
  mediaType: string,
  webIfc: () => Promise<IfcAPI>,
): Promise<PreparedModel> {
  if (mediaType === MODEL_TYPES.obj) return prepareMeshes((await import('./read-obj.ts')).readObj(bytes));
  if (mediaType === MODEL_TYPES.glb || mediaType === MODEL_TYPES.gltf)
    return prepareMeshes(await (await import('./read-gltf.ts')).readGltf(bytes));
  return prepareModel(bytes, await webIfc());
}
