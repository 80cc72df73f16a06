import type { Instances } from '@kindred/core/scene/package';
import {
  DataTexture,
  DoubleSide,
  FloatType,
  MeshLambertMaterial,
  RGBAFormat,
  SRGBColorSpace,
  UnsignedByteType,
  type Plane,
} from 'three';

const IN_A_ROW = 512;

/** Place and paint of every instance of a model, in two textures that its materials read. */
export class InstanceTable {
  private readonly paint: Uint8Array<ArrayBuffer>;
  private readonly paintTexture: DataTexture;
  private readonly placeTexture: DataTexture;

  constructor(private readonly instances: Instances) {
    const count = instances.shape.length;
    const rows = Math.max(1, Math.ceil(count / IN_A_ROW));
    const place = new Float32Array(rows * IN_A_ROW * 12);
    const m = instances.matrix;
    for (let i = 0; i < count; i++)
      for (let row = 0; row < 3; row++)
        for (let column = 0; column < 4; column++) place[i * 12 + row * 4 + column] = m[i * 12 + column * 3 + row]!;
    this.placeTexture = new DataTexture(place, IN_A_ROW * 3, rows, RGBAFormat, FloatType);
    this.paint = new Uint8Array(rows * IN_A_ROW * 4);
    this.paintTexture = new DataTexture(this.paint, IN_A_ROW, rows, RGBAFormat, UnsignedByteType);
    this.paintTexture.colorSpace = SRGBColorSpace;
    this.placeTexture.needsUpdate = true;
    this.paint.set(instances.colour);
    for (let at = 3; at < count * 4; at += 4) this.paint[at] ||= 1;
    this.paintTexture.needsUpdate = true;
  }

  /** Its own colour; wholly clear stands for hidden, so what is drawn keeps a trace of opacity. */
  setOwn(instance: number): void {
    const { colour } = this.instances;
    const at = instance * 4;
    this.set(instance, colour[at]!, colour[at + 1]!, colour[at + 2]!, Math.max(1, colour[at + 3]!));
  }

  set(instance: number, red: number, green: number, blue: number, opacity: number): void {
    const at = instance * 4;
    this.paint[at] = red;
    this.paint[at + 1] = green;
    this.paint[at + 2] = blue;
    this.paint[at + 3] = opacity;
    this.paintTexture.needsUpdate = true;
  }

  hide(instance: number): void {
    this.set(instance, 0, 0, 0, 0);
  }

  material(opaque: boolean, clippingPlanes: Plane[]): MeshLambertMaterial {
    const material = new MeshLambertMaterial({
      flatShading: true,
      side: DoubleSide,
      clippingPlanes,
      transparent: !opaque,
      depthWrite: opaque,
    });
    material.onBeforeCompile = (shader) => {
      shader.uniforms.placeTexture = { value: this.placeTexture };
      shader.uniforms.paintTexture = { value: this.paintTexture };
      shader.vertexShader = shader.vertexShader
        .replace('#include <common>', DECLARATIONS)
        .replace('#include <begin_vertex>', PLACED)
        .replace(
          '#include <project_vertex>',
          '#include <project_vertex>\nif (vPaint.a == 0.0) gl_Position = vec4(2.0, 2.0, 2.0, 1.0);',
        );
      shader.fragmentShader = shader.fragmentShader
        .replace('#include <common>', '#include <common>\nvarying vec4 vPaint;')
        .replace('#include <color_fragment>', 'diffuseColor *= vPaint;');
    };
    return material;
  }

  dispose(): void {
    this.placeTexture.dispose();
    this.paintTexture.dispose();
  }
}

const DECLARATIONS = `#include <common>
attribute uint instance;
uniform highp sampler2D placeTexture;
uniform sampler2D paintTexture;
varying vec4 vPaint;`;
const PLACED = `
ivec2 cell = ivec2(int(instance) % ${IN_A_ROW}, int(instance) / ${IN_A_ROW});
vPaint = texelFetch(paintTexture, cell, 0);
ivec2 first = ivec2(cell.x * 3, cell.y);
vec4 corner = vec4(position, 1.0);
vec3 transformed = vec3(
  dot(texelFetch(placeTexture, first, 0), corner),
  dot(texelFetch(placeTexture, first + ivec2(1, 0), 0), corner),
  dot(texelFetch(placeTexture, first + ivec2(2, 0), 0), corner));`;
