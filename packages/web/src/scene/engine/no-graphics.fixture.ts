/** Stands in for the graphics card: tests of the scene draw nothing, all else is as it is. */
import type * as Three from 'three';

class NoGraphics {
  info = { render: { calls: 3 } };
  localClippingEnabled = false;
  autoClear = true;
  shadowMap = {};
  setRenderTarget = (): void => undefined;
  getDrawingBufferSize = (size: Three.Vector2): Three.Vector2 => size.set(800, 600);
  setPixelRatio = (): void => undefined;
  setSize = (): void => undefined;
  render = (_scene: unknown, camera: { updateMatrixWorld(): void }): void => camera.updateMatrixWorld();
  dispose = (): void => undefined;
}

/** For `vi.mock('three', …)`. */
export const withoutGraphics = async (original: () => Promise<typeof Three>) => ({
  ...(await original()),
  WebGLRenderer: NoGraphics,
});
