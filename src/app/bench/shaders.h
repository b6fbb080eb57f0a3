#pragma once

// The programs that draw surfaces and lines.

namespace lostline::app {

inline const char* const kLitVertex = R"(#version 330 core
layout(location = 0) in vec3 position;
layout(location = 1) in vec3 normal;
layout(location = 2) in float value;
uniform mat4 placement;
uniform mat4 view_projection;
uniform mat3 view_rotation;
out vec3 eye_normal;
out float smooth_value;
out float beyond;
flat out float flat_value;
uniform vec4 clip;
void main() {
  beyond = dot(clip, placement * vec4(position, 1.0));
  eye_normal = view_rotation * (mat3(placement) * normal);
  smooth_value = value;
  flat_value = value;
  gl_Position = view_projection * (placement * vec4(position, 1.0));
})";

inline const char* const kLitFragment = R"(#version 330 core
in vec3 eye_normal;
in float smooth_value;
in float beyond;
flat in float flat_value;
uniform int paint;          // 0 plain, 1 tint, 2 deviation, 3 cut
uniform bool as_points;
uniform vec3 colour;
uniform vec3 washes[8];
uniform vec3 picked;
uniform float range;
uniform float tolerance;
uniform float opacity;
uniform float pixel_ratio;
uniform sampler1D scale;
out vec4 fragment;
void main() {
  if (beyond > 0.0) discard;
  if (paint == 3) {
    vec2 at = gl_FragCoord.xy / pixel_ratio;
    fragment = vec4(mod(at.x + at.y, 8.0) < 1.2 ? 0.45 * colour : colour, 1.0);
    return;
  }
  vec3 n = normalize(eye_normal);
  if (as_points && n.z < 0.0) discard;  // a point of a side that looks away
  if (!gl_FrontFacing) n = -n;
  vec3 base = colour;
  if (paint == 1 && flat_value > 50.0) base = picked;
  else if (paint == 1 && flat_value >= 0.0) {
    base = washes[int(flat_value) % 8];
    // Finish as a pattern of the wash: none machined, strokes formed, stipple as-cast.
    int finish = int(flat_value) / 8;
    vec2 at = gl_FragCoord.xy / pixel_ratio;
    if (finish == 1 && mod(at.x + at.y, 7.0) < 1.0) base *= 0.82;
    if (finish == 2) {
      vec2 cell = at / 5.0;
      cell.x += 0.5 * mod(floor(cell.y), 2.0);
      if (length(fract(cell) - 0.5) < 0.19) base *= 0.74;
    }
  }
  else if (paint == 2 && smooth_value == smooth_value) {
    base = texture(scale, 0.5 + 0.5 * clamp(smooth_value / range, -1.0, 1.0)).rgb;
    // Ink lines at the tolerance limits.
    // Only where the distance changes gently: on a rough skin every other point crosses the limit.
    float slope = fwidth(smooth_value);
    float edge = abs(abs(smooth_value) - tolerance) / max(slope, 1e-6);
    if (edge < 0.7 && slope < 0.05 * tolerance) base = mix(vec3(0.25, 0.32, 0.40), base, edge);
  }
  float key = max(dot(n, normalize(vec3(-0.35, 0.55, 0.75))), 0.0);
  float sky = 0.5 + 0.5 * n.y;
  float light = 0.50 + 0.16 * sky + 0.38 * key;
  if (!gl_FrontFacing) light *= 0.72;
  fragment = vec4(base * light, opacity);
})";

inline const char* const kLineVertex = R"(#version 330 core
layout(location = 0) in vec3 a;
layout(location = 1) in vec3 b;
uniform mat4 view_projection;
uniform vec2 viewport;
uniform float width;
uniform float lift;
uniform vec4 clip;
out float beyond;
void main() {
  beyond = dot(clip, vec4((gl_VertexID & 1) == 0 ? a : b, 1.0));
  vec4 p = view_projection * vec4(a, 1.0);
  vec4 q = view_projection * vec4(b, 1.0);
  vec2 d = (q.xy - p.xy) * viewport;
  float length_px = max(length(d), 1e-6);
  vec2 n = vec2(-d.y, d.x) / length_px;
  int corner = gl_VertexID;
  vec4 at = (corner & 1) == 0 ? p : q;
  at.xy += n * ((corner & 2) == 0 ? 1.0 : -1.0) * width / viewport;
  at.z -= lift;
  gl_Position = at;
})";

inline const char* const kLineFragment = R"(#version 330 core
uniform vec4 colour;
in float beyond;
out vec4 fragment;
void main() {
  if (beyond > 0.0) discard;
  fragment = colour;
})";

}  // namespace lostline::app
