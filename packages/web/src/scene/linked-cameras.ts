/** Two scenes that are looked at from one place: who moves one moves the other. */
import type { ModelView, SceneEngine } from './engine/scene-engine.ts';

/** Nearer than this two cameras stand at one place. Metres. */
const SAME = 1e-3;

export function linkCameras(scenes: readonly SceneEngine[]): void {
  let last: ModelView | undefined;
  for (const scene of scenes) {
    const { onDrawn } = scene;
    scene.onDrawn = () => {
      onDrawn();
      const view = scene.view();
      if (last && isSame(last, view)) return;
      last = view;
      for (const other of scenes) if (other !== scene) other.setView(view, false);
    };
  }
}

export function isSame(a: ModelView, b: ModelView): boolean {
  const apart = (p: ModelView['position'], q: ModelView['position']): number =>
    Math.max(...[0, 1, 2].map((i) => Math.abs(p[i]! - q[i]!)));
  return (
    a.projection === b.projection &&
    apart(a.position, b.position) < SAME &&
    apart(a.target, b.target) < SAME &&
    Math.abs(a.height - b.height) < SAME * Math.max(1, a.height)
  );
}
