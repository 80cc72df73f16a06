/**
 * What the shaders of a model do beyond those of three.js: place and paint come from textures, ghosts are drawn in grains, cut solids are
 * filled, and beside the colour goes what edges are found by: normal, a number, whether it is selected.
 */
export const DECLARED_IN_VERTEX = /* glsl */ `#include <common>
attribute uint instance;
uniform highp sampler2D placeTexture;
uniform sampler2D paintTexture;
varying vec4 vPaint;
/** A number for each instance, and which side is its outside: 1, −1 where it is mirrored, 0 where it has none. */
flat varying vec2 vKind;`;

export const PLACED = /* glsl */ `
uint number = instance & 0x7fffffffu;
ivec2 cell = ivec2(int(number) % IN_A_ROW, int(number) / IN_A_ROW);
vPaint = texelFetch(paintTexture, cell, 0);
ivec2 first = ivec2(cell.x * 3, cell.y);
/* Twelve numbers one after the other: three for each axis, three for the place. */
vec4 a = texelFetch(placeTexture, first, 0);
vec4 b = texelFetch(placeTexture, first + ivec2(1, 0), 0);
vec4 c = texelFetch(placeTexture, first + ivec2(2, 0), 0);
mat3 axes = mat3(a.xyz, vec3(a.w, b.xy), vec3(b.zw, c.x));
vec3 transformed = axes * position + c.yzw;
float outside = instance == number ? sign(determinant(axes)) : 0.0;
vKind = vec2(fract(float(number) * 0.6180339) * 0.97, outside);`;

export const PLACED_AWAY = /* glsl */ `#include <project_vertex>
if (vPaint.a == 0.0) gl_Position = vec4(2.0, 2.0, 2.0, 1.0);`;

/** Neither what is hidden nor a ghost throws a shadow. */
export const PLACED_AWAY_IN_SHADOW = /* glsl */ `#include <project_vertex>
if (vPaint.a < 0.3) gl_Position = vec4(2.0, 2.0, 2.0, 1.0);`;

export const DECLARED_IN_FRAGMENT = /* glsl */ `#include <common>
varying vec4 vPaint;
flat varying vec2 vKind;
uniform float grain;
uniform float capWithColour;
layout(location = 1) out highp vec4 info;
bool isSelected() { return abs(vPaint.a * 255.0 - 254.0) < 0.5; }
/** The inside of a solid is seen where it is cut only. */
bool isCut() {
#if NUM_CLIPPING_PLANES > 0
  return vKind.y != 0.0 && gl_FrontFacing == (vKind.y < 0.0);
#else
  return false;
#endif
}`;

export const PAINTED = /* glsl */ `diffuseColor *= vPaint;
#ifdef SOLID
  float seed = fract(52.9829189 * fract(dot(gl_FragCoord.xy, vec2(0.06711056, 0.00583715)) + grain));
  if (vPaint.a < 0.95 && fract(seed + vKind.x) > vPaint.a) discard;
  diffuseColor.a = 1.0;
#endif
if (isSelected()) diffuseColor.a = 1.0;`;

export const CAPPED = /* glsl */ `
if (isCut() && !isSelected()) {
  vec3 plain = vec3(0.13, 0.15, 0.155);
  outgoingLight = mix(plain, vPaint.rgb * 0.55, capWithColour);
}
#include <opaque_fragment>`;

export const INFO = /* glsl */ `#include <dithering_fragment>
vec2 turned = isCut() ? vec2(0.0) : normal.xy * 0.49 + 0.5;
/* What one sees through is blended by the last part: of it only what is selected counts. */
info = vec4(turned, vKind.x, isSelected() ? 1.0 : 0.0);`;
