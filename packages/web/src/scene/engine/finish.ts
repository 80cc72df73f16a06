/**
 * The finished picture of a scene at rest: edges, soft shading where surfaces meet, the outline of what is selected. It is drawn
 * several times, each time a fraction of a pixel aside, and laid together: lines are smooth, shading is even.
 */
import {
  CustomBlending,
  DepthTexture,
  GLSL3,
  HalfFloatType,
  Mesh,
  NearestFilter,
  NoBlending,
  OneMinusSrcAlphaFactor,
  OrthographicCamera,
  PlaneGeometry,
  ShaderMaterial,
  SrcAlphaFactor,
  UnsignedIntType,
  Vector2,
  Vector3,
  WebGLRenderTarget,
  type PerspectiveCamera,
  type Scene,
  type WebGLRenderer,
} from 'three';
import { GROUND_NUMBER } from './ground.ts';

type AnyCamera = PerspectiveCamera | OrthographicCamera;

export interface Finishing {
  edges: boolean;
  shading: boolean;
}

/** Pictures that are laid together: as many as are drawn in the time, no fewer and no more than these. */
const [FEWEST, MOST] = [4, 16];
const TIME_MS = 1200;
/** After so long even fewer are enough: the machine has other things to do. */
const LONGEST_MS = 4000;
/** Shading reaches so far, as part of the height of what is seen. */
const SHADING_REACH = 0.04;

export class Finish {
  private readonly geometry = new PlaneGeometry(2, 2);
  private readonly flat = new OrthographicCamera(-1, 1, 1, -1, 0, 1);
  private readonly drawn = new WebGLRenderTarget(1, 1, { count: 2, type: HalfFloatType, depthBuffer: true });
  private readonly together = new WebGLRenderTarget(1, 1, { type: HalfFloatType, depthBuffer: false });
  private readonly finishing: ShaderMaterial;
  private readonly showing: ShaderMaterial;
  private readonly quad: Mesh<PlaneGeometry, ShaderMaterial>;
  private done = 0;
  private began = 0;
  private whole = false;
  /** Calls and triangles of the last picture of the scene alone. */
  calls = 0;

  constructor(private readonly renderer: WebGLRenderer) {
    for (const texture of [...this.drawn.textures, this.together.texture])
      texture.minFilter = texture.magFilter = NearestFilter;
    this.drawn.depthTexture = new DepthTexture(1, 1, UnsignedIntType);
    this.finishing = new ShaderMaterial({
      glslVersion: GLSL3,
      vertexShader: FLAT,
      fragmentShader: FINISHING,
      depthTest: false,
      depthWrite: false,
      blending: CustomBlending,
      blendSrc: SrcAlphaFactor,
      blendDst: OneMinusSrcAlphaFactor,
      uniforms: {
        drawn: { value: this.drawn.textures[0] },
        info: { value: this.drawn.textures[1] },
        depths: { value: this.drawn.depthTexture },
        size: { value: new Vector2() },
        near: { value: 0.1 },
        far: { value: 1000 },
        parallel: { value: 0 },
        opening: { value: new Vector2() },
        share: { value: 1 },
        number: { value: 0 },
        reach: { value: 1 },
        edges: { value: 1 },
        shading: { value: 1 },
        ink: { value: new Vector3(0.012, 0.023, 0.028) },
        outline: { value: new Vector3(0.62, 0.22, 0.005) },
      },
    });
    this.showing = new ShaderMaterial({
      glslVersion: GLSL3,
      vertexShader: FLAT,
      fragmentShader: SHOWING,
      depthTest: false,
      depthWrite: false,
      blending: NoBlending,
      uniforms: { picture: { value: this.together.texture } },
    });
    this.quad = new Mesh(this.geometry, this.finishing);
    this.quad.frustumCulled = false;
  }

  /** Begins anew: something changed. */
  begin(): void {
    this.done = 0;
    this.whole = false;
  }
  get isDone(): boolean {
    return this.whole;
  }

  /** Lays one more picture to the others and shows what there is. `height`: of what is seen, metres at the target. */
  step(scene: Scene, camera: AnyCamera, height: number, { edges, shading }: Finishing): void {
    const { renderer, drawn, together, finishing } = this;
    const size = renderer.getDrawingBufferSize(new Vector2());
    if (drawn.width !== size.x || drawn.height !== size.y) {
      drawn.setSize(size.x, size.y);
      together.setSize(size.x, size.y);
      this.done = 0;
    }
    if (this.done === 0) this.began = performance.now();
    const [aside, down] = [halton(this.done, 2) - 0.5, halton(this.done, 3) - 0.5];
    camera.setViewOffset(size.x, size.y, aside, down, size.x, size.y);
    renderer.setRenderTarget(drawn);
    renderer.render(scene, camera);
    this.calls = renderer.info.render.calls;
    camera.clearViewOffset();
    const { uniforms } = finishing;
    uniforms.size!.value.copy(size);
    uniforms.near!.value = camera.near;
    uniforms.far!.value = camera.far;
    uniforms.parallel!.value = camera instanceof OrthographicCamera ? 1 : 0;
    // Half of what is seen, at a distance of one, or at any distance where nothing grows smaller.
    uniforms.opening!.value.set(1 / camera.projectionMatrix.elements[0]!, 1 / camera.projectionMatrix.elements[5]!);
    uniforms.share!.value = 1 / (this.done + 1);
    uniforms.number!.value = this.done;
    uniforms.reach!.value = height * SHADING_REACH;
    uniforms.edges!.value = edges ? 1 : 0;
    uniforms.shading!.value = shading ? 1 : 0;
    this.draw(finishing, together);
    this.draw(this.showing, null);
    this.done++;
    const took = performance.now() - this.began;
    this.whole = this.done >= MOST || took > (this.done >= FEWEST ? TIME_MS : LONGEST_MS);
  }

  private draw(material: ShaderMaterial, target: WebGLRenderTarget | null): void {
    const { renderer, quad } = this;
    const { autoClear } = renderer;
    renderer.autoClear = false;
    quad.material = material;
    renderer.setRenderTarget(target);
    renderer.render(quad, this.flat);
    renderer.autoClear = autoClear;
  }

  dispose(): void {
    this.geometry.dispose();
    this.drawn.depthTexture?.dispose();
    this.drawn.dispose();
    this.together.dispose();
    this.finishing.dispose();
    this.showing.dispose();
  }
}

/** The `i`th number of Halton's sequence, 0 to 1: places that fill a pixel evenly. */
export function halton(i: number, base: number): number {
  let [result, part] = [0, 1];
  for (let n = i + 1; n > 0; n = Math.floor(n / base)) {
    part /= base;
    result += part * (n % base);
  }
  return result;
}

const FLAT = /* glsl */ `
void main() { gl_Position = vec4(position.xy, 0.0, 1.0); }`;

const SHOWING = /* glsl */ `
precision highp float;
uniform sampler2D picture;
layout(location = 0) out vec4 shown;
void main() {
  shown = vec4(texelFetch(picture, ivec2(gl_FragCoord.xy), 0).rgb, 1.0);
  shown = sRGBTransferOETF(shown);
}`;

/** Shading after McGuire and others, “The Alchemy screen-space ambient obscurance algorithm” (2011). */
const FINISHING = /* glsl */ `
precision highp float;
uniform sampler2D drawn;
uniform sampler2D info;
uniform highp sampler2D depths;
uniform vec2 size;
uniform float near;
uniform float far;
uniform float parallel;
uniform vec2 opening;
uniform float share;
uniform float number;
uniform float reach;
uniform float edges;
uniform float shading;
uniform vec3 ink;
uniform vec3 outline;
layout(location = 0) out vec4 finished;

/** How far before the camera. */
float depthOf(float kept) {
  return parallel > 0.5 ? mix(near, far, kept) : near * far / (far - kept * (far - near));
}
vec3 placeAt(ivec2 pixel, float kept) {
  float depth = depthOf(kept);
  vec2 on = ((vec2(pixel) + 0.5) / size * 2.0 - 1.0) * opening;
  return vec3(on * (parallel > 0.5 ? 1.0 : depth), -depth);
}
vec3 normalOf(vec4 said) {
  vec2 on = (said.xy - 0.5) / 0.49;
  return vec3(on, sqrt(max(0.0, 1.0 - dot(on, on))));
}
bool isGround(vec4 said) { return abs(said.z - ${GROUND_NUMBER}) < 0.004; }
bool isCut(vec4 said) { return said.x < 0.005 && said.y < 0.005; }

void main() {
  ivec2 pixel = ivec2(gl_FragCoord.xy);
  ivec2 last = ivec2(size) - 1;
  vec3 colour = texelFetch(drawn, pixel, 0).rgb;
  vec4 said = texelFetch(info, pixel, 0);
  float kept = texelFetch(depths, pixel, 0).r;
  bool sky = kept >= 1.0;
  bool empty = sky || isGround(said);
  vec3 place = placeAt(pixel, kept);
  vec3 normal = normalOf(said);
  float depth = -place.z;
  float selected = !empty && said.a > 0.5 ? 1.0 : 0.0;

  float line = 0.0;
  float around = 0.0;
  for (int i = 0; i < 4; i++) {
    ivec2 step = ivec2(i < 2 ? i * 2 - 1 : 0, i < 2 ? 0 : i * 2 - 5);
    ivec2 beside = clamp(pixel + step, ivec2(0), last);
    vec4 other = texelFetch(info, beside, 0);
    float otherKept = texelFetch(depths, beside, 0).r;
    bool otherEmpty = otherKept >= 1.0 || isGround(other);
    // To one side only: lines are a pixel wide.
    if (i % 2 == 1 && empty != otherEmpty) line = max(line, 0.8);
    else if (i % 2 == 1 && !empty) {
      vec3 away = placeAt(beside, otherKept) - place;
      bool cut = isCut(said) || isCut(other);
      bool same = abs(other.z - said.z) < 0.0035;
      float jump = cut ? 0.0 : abs(dot(away, normal)) / (depth * 0.01 + 0.004);
      float turn = cut ? 0.0 : 1.0 - dot(normal, normalOf(other));
      if (jump > 1.0) line = max(line, 0.7);
      if (!same || isCut(said) != isCut(other)) line = max(line, 0.45);
      if (turn > 0.06) line = max(line, 0.5);
    }
    ivec2 wide = clamp(pixel + step * 2, ivec2(0), last);
    vec4 wider = texelFetch(info, wide, 0);
    float wideSelected = texelFetch(depths, wide, 0).r < 1.0 && wider.a > 0.5 ? 1.0 : 0.0;
    if (wideSelected != selected) around = 1.0;
  }

  float shade = 0.0;
  if (shading > 0.5 && !sky && !isCut(said)) {
    float noise = fract(52.9829189 * fract(dot(vec2(pixel), vec2(0.06711056, 0.00583715))) + number * 0.6180339);
    float radius = clamp(reach / (opening.y * (parallel > 0.5 ? 1.0 : depth)) * size.y * 0.5, 3.0, 90.0);
    for (int i = 0; i < 7; i++) {
      float part = (float(i) + noise) / 7.0;
      float turned = 6.2831853 * (noise + float(i) * 0.3819660);
      ivec2 there = pixel + ivec2(vec2(cos(turned), sin(turned)) * radius * part);
      if (any(lessThan(there, ivec2(0))) || any(greaterThan(there, last))) continue;
      float thereKept = texelFetch(depths, there, 0).r;
      if (thereKept >= 1.0) continue;
      vec3 away = placeAt(there, thereKept) - place;
      float far2 = dot(away, away);
      shade += max(0.0, dot(away, normal) - depth * 0.0004 - reach * 0.01) / (far2 + reach * 0.05) * step(far2, reach * reach * 4.0);
    }
    shade = min(0.62, shade * reach * 0.12);
  }

  colour *= 1.0 - shade;
  colour = mix(colour, ink, line * edges);
  colour = mix(colour, outline, around);
  finished = vec4(colour, share);
}`;
