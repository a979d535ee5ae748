#version 450
layout(push_constant) uniform Push {
  float position;
  uint load;
  uint index;
} push;
layout(set = 0, binding = 0) uniform sampler2D field;
layout(location = 0) in vec2 place;
layout(location = 0) out vec4 colour;

// A nebula out of many turned waves: arithmetic, and nothing to fetch.
vec3 nebula() {
  vec2 p = (place - 0.5) * 6.0;
  float turn = push.position * 6.2831853;
  float sum = 0.0;
  for (int i = 0; i < 48; ++i) {
    p = mat2(0.8, -0.6, 0.6, 0.8) * p * 1.04 + vec2(sin(turn), cos(turn)) * 0.1;
    sum += abs(sin(p.x + sin(p.y * 1.7 + turn))) / float(i + 4);
  }
  return vec3(sum * 0.4, sum * 0.25, sum * 0.7);
}

void main() {
  vec2 drift = vec2(push.position, push.position * 0.3);
  vec3 shown = push.load == 0u   ? nebula()
               : push.load == 1u ? 0.5 * texture(field, place + drift).rgb + 0.5 * texture(field, place * 2.0 - drift).rgb
                                 : vec3(0.9, 0.8, 0.5) * float(push.index % 7u + 1u) / 7.0;
  colour = vec4(shown, 1.0);
}
