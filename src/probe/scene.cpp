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
    return mix(mix(lattice(ix, iy, z), lattice(ix + 1, iy, z), sx),
               mix(lattice(ix, iy + 1, z), lattice(ix + 1, iy + 1, z), sx), sy);
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
    const float density =
        std::max(0.0f, 0.65f * noiseAt(p) + 0.35f * noiseAt({2.7f * p.x, 2.7f * p.y, 2.7f * p.z}) - 0.42f);
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

// The direction in which a point of the picture looks; z is 0 outside the dome. The sky turns along the path.
Vector onDome(float x, float y, float position) {
  const float radius2 = x * x + y * y;
  if (radius2 >= 1) return {0, 0, 0};
  const float cosine = 1 - 0.18f * position * position;
  const float sine = std::sqrt(1 - cosine * cosine);
  return {x * cosine - y * sine, x * sine + y * cosine, std::sqrt(1 - radius2)};
}

std::uint32_t shade(Vector direction, float glow) {
  if (direction.z <= 0) return 0;
  const auto level = static_cast<std::uint32_t>(255 * std::min(1.0f, starsAt(direction) + glow));
  return level << 16 | (level * 3 / 4) << 8 | level;
}

// The nebula is soft: one ray serves a block of pixels. Sizes and shares of rows are multiples of it.
constexpr int kBlock = 4;

}  // namespace

Scene::Scene(int size) : size_(size), pixels_(static_cast<std::size_t>(size) * static_cast<std::size_t>(size)) {}

void Scene::drawRows(double position, int first, int last) {
  const float scale = 2.0f / static_cast<float>(size_);
  const float along = static_cast<float>(position);
  for (int row = first; row < last; row += kBlock)
    for (int column = 0; column < size_; column += kBlock) {
      const Vector middle = onDome(static_cast<float>(column + kBlock / 2) * scale - 1,
                                   static_cast<float>(row + kBlock / 2) * scale - 1, along);
      const float glow = middle.z > 0 ? nebulaAlong(middle, along) : 0;
      for (int y = row; y < std::min(row + kBlock, last); ++y)
        for (int x = column; x < column + kBlock; ++x)
          pixels_[static_cast<std::size_t>(y) * static_cast<std::size_t>(size_) + static_cast<std::size_t>(x)] =
              shade(onDome(static_cast<float>(x) * scale - 1, static_cast<float>(y) * scale - 1, along), glow);
    }
}

std::uint64_t Scene::checksum() const {
  std::uint64_t sum = 0xcbf29ce484222325;
  for (const std::uint32_t p : pixels_) sum = (sum ^ p) * 0x100000001b3;
  return sum;
}

}  // namespace probe
