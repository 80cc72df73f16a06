/** The ground that the models stand on: a level that one sees from above only, paler towards its edge. */
import { CircleGeometry, Color, Mesh, MeshLambertMaterial, type Box3, type Object3D } from 'three';

const COLOUR = new Color('#cfcec6');
/** Instead of the number of an instance, which never is so large. */
export const GROUND_NUMBER = 0.99;
/** Radii of the models that it reaches. */
const REACH = 2.2;
/** It lies so much under the lowest place, as part of the reach: nothing flickers. */
const BELOW = 2e-4;

export class Ground {
  private readonly mesh: Mesh<CircleGeometry, MeshLambertMaterial>;

  /** `beyond`: the colour behind everything, which it fades to. */
  constructor(beyond: Color) {
    const material = new MeshLambertMaterial({ color: COLOUR });
    material.onBeforeCompile = (shader) => {
      shader.uniforms.beyond = { value: beyond };
      shader.vertexShader = shader.vertexShader
        .replace('#include <common>', '#include <common>\nvarying vec2 vOnGround;')
        .replace('#include <begin_vertex>', '#include <begin_vertex>\nvOnGround = position.xy;');
      shader.fragmentShader = shader.fragmentShader
        .replace(
          '#include <common>',
          `#include <common>
           varying vec2 vOnGround;
           uniform vec3 beyond;
           layout(location = 1) out highp vec4 info;`,
        )
        .replace(
          '#include <dithering_fragment>',
          `#include <dithering_fragment>
           gl_FragColor.rgb = mix(gl_FragColor.rgb, beyond, smoothstep(0.4, 1.0, length(vOnGround)));
           info = vec4(normal.xy * 0.49 + 0.5, ${GROUND_NUMBER}, 0.0);`,
        );
    };
    this.mesh = new Mesh(new CircleGeometry(1, 96), material);
    this.mesh.receiveShadow = true;
    this.mesh.visible = false;
  }

  addTo(scene: Object3D): void {
    scene.add(this.mesh);
  }

  set visible(visible: boolean) {
    this.mesh.visible = visible;
  }

  /** Under the models. Returns its height in the scene. */
  lieUnder(bounds: Box3): number {
    const reach = bounds.min.distanceTo(bounds.max) / 2;
    const level = bounds.min.z - reach * BELOW - 0.01;
    this.mesh.position.set((bounds.min.x + bounds.max.x) / 2, (bounds.min.y + bounds.max.y) / 2, level);
    this.mesh.scale.setScalar(Math.max(1, reach * REACH));
    return level;
  }

  dispose(): void {
    this.mesh.geometry.dispose();
    this.mesh.material.dispose();
  }
}
