/** The light of the scene: even as in a studio, or that of the sun with its shadows. */
import type { Point } from '@kindred/core/scene/pick';
import {
  DirectionalLight,
  HemisphereLight,
  PCFShadowMap,
  Vector3,
  type Box3,
  type Scene,
  type WebGLRenderer,
} from 'three';

/** From where the light of the studio comes, and how strong both lights are. */
const STUDIO = new Vector3(-0.5, -0.8, 1).normalize();
const EVEN = { sky: 2.1, sun: 1.6 };
const SUNNY = { sky: 1.15, sun: 2.9 };
/** Strength of the sky when the sun is below the horizon. */
const NIGHT = 0.7;
const SHADOW_PIXELS = 2048;

export class Sunlight {
  private readonly sky = new HemisphereLight('#ffffff', '#b9b2a0', EVEN.sky);
  private readonly sun = new DirectionalLight('#fff4e0', EVEN.sun);

  constructor(private readonly renderer: WebGLRenderer) {
    this.sky.position.set(0, 0, 1);
    this.sun.position.copy(STUDIO);
    this.sun.shadow.mapSize.set(SHADOW_PIXELS, SHADOW_PIXELS);
    this.sun.shadow.bias = -0.0006;
    renderer.shadowMap.type = PCFShadowMap;
    renderer.shadowMap.autoUpdate = false;
  }

  addTo(scene: Scene): void {
    scene.add(this.sky, this.sun, this.sun.target);
  }

  /** `towards`: from the models to the sun; null for the light of the studio. `box`: what throws shadows, in the scene. */
  shine(towards: Point | null, box: Box3): void {
    const risen = towards !== null && towards[2] > 0;
    const strength = towards ? SUNNY : EVEN;
    this.sky.intensity = towards && !risen ? NIGHT : strength.sky;
    this.sun.intensity = towards && !risen ? 0 : strength.sun;
    this.sun.castShadow = risen;
    this.renderer.shadowMap.enabled = risen;
    const middle = box.isEmpty() ? new Vector3() : box.getCenter(new Vector3());
    const radius = box.isEmpty() ? 1 : box.getSize(new Vector3()).length() / 2;
    this.sun.target.position.copy(middle);
    this.sun.position.copy(middle).addScaledVector(risen ? new Vector3(...towards) : STUDIO, radius * 2);
    const { camera } = this.sun.shadow;
    camera.left = camera.bottom = -radius;
    camera.right = camera.top = radius;
    camera.near = radius * 0.5;
    camera.far = radius * 3.5;
    camera.updateProjectionMatrix();
    this.sun.target.updateMatrixWorld();
    this.changed();
  }

  /** What throws shadows is another now. */
  changed(): void {
    this.renderer.shadowMap.needsUpdate = this.sun.castShadow;
  }

  dispose(): void {
    this.sun.dispose();
    this.sky.dispose();
  }
}
