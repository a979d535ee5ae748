#version 450
// Either one triangle over the whole picture, or one of many stars on its way round the dome.
layout(push_constant) uniform Push {
  float position;  // on the path, 0 to 1
  uint load;
  uint index;
} push;
layout(location = 0) out vec2 place;

float scattered(uint n) {
  n = (n ^ 61u) ^ (n >> 16u);
  n *= 9u;
  n ^= n >> 4u;
  n *= 0x27d4eb2du;
  n ^= n >> 15u;
  return float(n & 0xffffu) / 65535.0;
}

void main() {
  vec2 corner = vec2((gl_VertexIndex << 1) & 2, gl_VertexIndex & 2);
  place = corner;
  if (push.load != 2u) {
    gl_Position = vec4(corner * 2.0 - 1.0, 0.0, 1.0);
    return;
  }
  float angle = 6.2831853 * (scattered(push.index) + push.position * (0.2 + scattered(push.index + 7u)));
  vec2 centre = sqrt(scattered(push.index + 13u)) * vec2(cos(angle), sin(angle));
  gl_Position = vec4(centre + (corner - 0.5) * 0.012, 0.0, 1.0);
}
