#include "probe/scene.h"

#include <algorithm>
#include <cmath>

namespace probe {
namespace {

struct Vector {
  float x, y, z;
};

std::uint32_t hash3(std::int32_t x, std::int32_t y, std::int32_t z) {
  std::uint32_t h = static_cast<std::uint32_t>(x) * 0x8da6b343u ^ static_cast<std::uint32_t>(y) * 0xd8163841u ^
                    static_cast<std::uint32_t>(z) * 0xcb1ab31fu;
  h = (h ^ (h >> 13)) * 0x5bd1e995u;
  return h ^ (h >> 15);
}

float lattice(std::int32_t x, std::int32_t y, std::int32_t z) {
  return static_cast<float>(hash3(x, y, z) & 0xffffu) / 65535.0f;
}

float mix(float a, float b, float t) { return a + (b - a) * t; }

// Value noise: random numbers at the corners of a lattice, smoothly joined.
float noiseAt(Vector p) {
  const float fx = std::floor(p.x), fy = std::floor(p.y), fz = std::floor(p.z);
  const auto ix = static_cast<std::int32_t>(fx), iy = static_cast<std::int32_t>(fy), iz = static_cast<std::int32_t>(fz);
  const float tx = p.x - fx, ty = p.y - fy, tz = p.z - fz;
  const float sx = tx * tx * (3 - 2 * tx), sy = ty * ty * (3 - 2 * ty);
  const auto layer = [&](std::int32_t z) {
    return mix(mix(lattice(ix, iy, z), lattice(ix + 1, iy, z), sx), mix(lattice(ix, iy + 1, z), lattice(ix + 1, iy + 1, z), sx), sy);
  };
  return mix(layer(iz), layer(iz + 1), tz);
}

float nebulaAlong(Vector direction, float position) {
  constexpr int kSteps = 6;
  float glow = 0;
  float light = 1;
  for (int step = 0; step < kSteps && light > 0.05f; ++step) {
    const float distance = 1.5f + 0.7f * static_cast<float>(step);
    const Vector p{direction.x * distance + 4 * position, direction.y * distance + position, direction.z * distance};
    const float density = std::max(0.0f, 0.65f * noiseAt(p) + 0.35f * noiseAt({2.7f * p.x, 2.7f * p.y, 2.7f * p.z}) - 0.42f);
    glow += light * density;
    light *= 1 - std::min(0.9f, 1.5f * density);
  }
  return glow;
}

float starsAt(Vector direction) {
  const auto cell = [](float v) { return static_cast<std::int32_t>(std::floor(v * 90)); };
  const std::uint32_t h = hash3(cell(direction.x), cell(direction.y), cell(direction.z));
  return (h & 0x1ffu) == 0 ? static_cast<float>(h >> 24) / 255.0f : 0.0f;
}

}  // namespace

Scene::Scene(int size) : size_(size), pixels_(static_cast<std::size_t>(size) * static_cast<std::size_t>(size)) {}

std::uint32_t Scene::pixel(float x, float y, float position) const {
  const float radius2 = x * x + y * y;
  if (radius2 > 1) return 0;  // outside the dome
  const Vector direction{x, y, std::sqrt(1 - radius2)};
  const float turn = 0.6f * position;
  const Vector turned{direction.x * std::cos(turn) - direction.y * std::sin(turn), direction.x * std::sin(turn) + direction.y * std::cos(turn),
                      direction.z};
  const float brightness = std::min(1.0f, starsAt(turned) + nebulaAlong(turned, position));
  const auto level = static_cast<std::uint32_t>(255 * brightness);
  return level << 16 | (level * 3 / 4) << 8 | level;
}

void Scene::drawRows(double position, int first, int last) {
  const float scale = 2.0f / static_cast<float>(size_);
  for (int row = first; row < last; ++row) {
    std::uint32_t* line = pixels_.data() + static_cast<std::size_t>(row) * static_cast<std::size_t>(size_);
    for (int column = 0; column < size_; ++column)
      line[column] = pixel(static_cast<float>(column) * scale - 1, static_cast<float>(row) * scale - 1, static_cast<float>(position));
  }
}

std::uint64_t Scene::checksum() const {
  std::uint64_t sum = 0xcbf29ce484222325;
  for (const std::uint32_t p : pixels_) sum = (sum ^ p) * 0x100000001b3;
  return sum;
}

}  // namespace probe
