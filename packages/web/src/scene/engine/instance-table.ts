import type { Instances } from '@kindred/core/scene/package';
import {
  DataTexture,
  DoubleSide,
  FloatType,
  MeshDepthMaterial,
  MeshLambertMaterial,
  RGBADepthPacking,
  RGBAFormat,
  SRGBColorSpace,
  UnsignedByteType,
  type Plane,
} from 'three';
import { OPAQUE } from './draws.ts';
import type { Look } from './paint-layers.ts';
import {
  CAPPED,
  DECLARED_IN_FRAGMENT,
  DECLARED_IN_VERTEX,
  INFO,
  PAINTED,
  PLACED,
  PLACED_AWAY,
  PLACED_AWAY_IN_SHADOW,
} from './shaders.ts';

const SELECTED = [0xe0, 0x93, 0x1a] as const;
/** Opacity of 255 that stands for “selected”: nothing has it of its own. */
const SELECTED_OPACITY = 254;
/** How much of a ghost one sees, of 255, and what of its own colour is left. */
const [GHOST_OPACITY, GHOST_COLOUR] = [38, 0.35];
const PALE = 150;

const pale = (part: number): number => part * GHOST_COLOUR + PALE * (1 - GHOST_COLOUR);

const IN_A_ROW = 512;

/** What all models of a scene share in their shaders. */
export interface SharedUniforms {
  /** Changes from picture to picture, so that ghosts of many pictures laid together are even. */
  grain: { value: number };
  /** 0: cut faces are filled plainly; 1: with the colour of what is cut. */
  capWithColour: { value: number };
}

/** The graphics card takes whole rows. What follows the matrices in a file is taken along where there is enough of it: nothing looks there. */
function wholeRows(matrix: Float32Array, length: number): Float32Array {
  if (matrix.byteOffset + length * 4 <= matrix.buffer.byteLength)
    return new Float32Array(matrix.buffer, matrix.byteOffset, length);
  const padded = new Float32Array(length);
  padded.set(matrix);
  return padded;
}

/** Place and paint of every instance of a model, in two textures that its materials read. */
export class InstanceTable {
  private readonly paint: Uint8Array<ArrayBuffer>;
  private readonly paintTexture: DataTexture;
  private readonly place: Float32Array;
  private readonly placeTexture: DataTexture;
  /** The paint is with the graphics card as it is here. */
  private isSent = true;

  constructor(private readonly instances: Instances) {
    const count = instances.shape.length;
    const rows = Math.max(1, Math.ceil(count / IN_A_ROW));
    this.place = wholeRows(instances.matrix, rows * IN_A_ROW * 12);
    this.placeTexture = new DataTexture(this.place as never, IN_A_ROW * 3, rows, RGBAFormat, FloatType);
    this.placeTexture.needsUpdate = true;
    this.paint = new Uint8Array(rows * IN_A_ROW * 4);
    this.paintTexture = new DataTexture(this.paint, IN_A_ROW, rows, RGBAFormat, UnsignedByteType);
    this.paintTexture.colorSpace = SRGBColorSpace;
    this.paintTexture.onUpdate = () => (this.isSent = true);
    for (let i = 0; i < count; i++) this.setLook(i, 'own');
  }

  get bytes(): number {
    return this.paint.byteLength + this.place.byteLength;
  }

  /** Takes the places of the instances anew. */
  moved(): void {
    const { matrix } = this.instances;
    if (this.place.buffer !== matrix.buffer) this.place.set(matrix);
    this.placeTexture.needsUpdate = true;
  }

  /** Wholly clear stands for hidden: what is drawn keeps a trace of opacity. */
  setLook(instance: number, look: Look): void {
    const { colour } = this.instances;
    const at = instance * 4;
    const opacity = colour[at + 3]!;
    const own = opacity >= OPAQUE ? 255 : Math.max(1, opacity);
    switch (look) {
      case 'own':
        return this.set(at, colour[at]!, colour[at + 1]!, colour[at + 2]!, own);
      case 'hidden':
        return this.set(at, 0, 0, 0, 0);
      case 'ghost':
        return this.set(
          at,
          pale(colour[at]!),
          pale(colour[at + 1]!),
          pale(colour[at + 2]!),
          Math.min(own, GHOST_OPACITY),
        );
      case 'selected':
        return this.set(at, SELECTED[0], SELECTED[1], SELECTED[2], SELECTED_OPACITY);
      default:
        this.set(at, look >> 16, (look >> 8) & 255, look & 255, own);
    }
  }

  private set(at: number, red: number, green: number, blue: number, opacity: number): void {
    const { paint } = this;
    paint[at] = red;
    paint[at + 1] = green;
    paint[at + 2] = blue;
    paint[at + 3] = opacity;
    // Said once, however many change before the next picture.
    if (this.isSent) {
      this.isSent = false;
      this.paintTexture.needsUpdate = true;
    }
  }

  material(opaque: boolean, clippingPlanes: Plane[], shared: SharedUniforms): MeshLambertMaterial {
    const material = new MeshLambertMaterial({
      flatShading: true,
      side: DoubleSide,
      clippingPlanes,
      transparent: !opaque,
      depthWrite: opaque,
    });
    material.defines = { ...material.defines, IN_A_ROW, ...(opaque && { SOLID: 1 }) };
    material.onBeforeCompile = (shader) => {
      this.readIn(shader);
      Object.assign(shader.uniforms, shared);
      shader.vertexShader = shader.vertexShader
        .replace('#include <common>', DECLARED_IN_VERTEX)
        .replace('#include <begin_vertex>', PLACED)
        .replace('#include <project_vertex>', PLACED_AWAY);
      shader.fragmentShader = shader.fragmentShader
        .replace('#include <common>', DECLARED_IN_FRAGMENT)
        .replace('#include <color_fragment>', PAINTED)
        .replace('#include <opaque_fragment>', CAPPED)
        .replace('#include <dithering_fragment>', INFO);
    };
    return material;
  }

  /** For shadows: neither what is hidden nor a ghost throws one. */
  depthMaterial(): MeshDepthMaterial {
    const material = new MeshDepthMaterial({ depthPacking: RGBADepthPacking, side: DoubleSide });
    material.defines = { ...material.defines, IN_A_ROW };
    material.onBeforeCompile = (shader) => {
      this.readIn(shader);
      shader.vertexShader = shader.vertexShader
        .replace('#include <common>', DECLARED_IN_VERTEX)
        .replace('#include <begin_vertex>', PLACED)
        .replace('#include <project_vertex>', PLACED_AWAY_IN_SHADOW);
    };
    return material;
  }
  private readIn(shader: { uniforms: Record<string, { value: unknown }> }): void {
    shader.uniforms.placeTexture = { value: this.placeTexture };
    shader.uniforms.paintTexture = { value: this.paintTexture };
  }

  dispose(): void {
    this.placeTexture.dispose();
    this.paintTexture.dispose();
  }
}
