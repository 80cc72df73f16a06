/** A picture of models together, as a PNG. */
import { mainCluster } from '@kindred/core/federation/positions';
import { around, type Bounds } from '@kindred/core/scene/bounds';
import { ThumbnailDrawing } from '@kindred/core/scene/draw-thumbnail';
import { decodeScene, type ScenePackage } from '@kindred/core/scene/package';
import { placeScene, type Placing } from '@kindred/core/scene/placing';
import type { ModelFiles } from './messages.ts';
import { bufferOf, contentOf } from './prepared-models.ts';

export interface DrawnModels {
  /** In base 64; null where no model has a shape. */
  png: string | null;
}

/** `placings`: of each model. What lies far off is left out; one part after the other is read. */
export async function drawModels(
  models: readonly ModelFiles[],
  placings: readonly (Placing | null)[],
): Promise<DrawnModels> {
  const read = async (model: number, part: number): Promise<ScenePackage> => {
    const scene = decodeScene(bufferOf(await contentOf(models[model]!.scenes[part]!)));
    const placing = placings[model];
    return placing ? placeScene(scene, placing) : scene;
  };
  const boxes: (Bounds | null)[] = [];
  for (const model of models.keys()) boxes.push(boundsOf(await read(model, 0)));
  const near = mainCluster(boxes);
  if (!near.length) return { png: null };
  const [x, y, z, ...end] = around(near.map((model) => boxes[model]!));
  const drawing = new ThumbnailDrawing([0, 0, 0, end[0] - x, end[1] - y, end[2] - z], [x, y, z]);
  for (const model of near) for (const part of models[model]!.scenes.keys()) drawing.add(await read(model, part));
  const { width, height, pixels } = drawing.picture;
  const { default: sharp } = await import('sharp');
  const png = await sharp(pixels, { raw: { width, height, channels: 4 } })
    .png()
    .toBuffer();
  return { png: png.toString('base64') };
}

/** In the coordinates of the model; null without elements. */
const boundsOf = ({ bounds, origin }: ScenePackage): Bounds | null =>
  bounds.every(Number.isFinite) ? (bounds.map((value, i) => value + origin[i % 3]!) as unknown as Bounds) : null;
