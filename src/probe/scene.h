#pragma once

#include <cstdint>
#include <vector>

namespace probe {

/// A planetarium dome drawn in software: stars and a nebula that is marched through ray by ray. Any machine can draw
/// it, and the same position always gives the same picture.
class Scene {
 public:
  /// `size` pixels each way.
  explicit Scene(int size);

  [[nodiscard]] int rows() const { return size_; }

  /// Draws the rows [first, last) for a position on the path, 0 to 1. Different rows may be drawn by different threads.
  void drawRows(double position, int first, int last);

  /// A number that depends on every pixel: proof that the picture was drawn.
  [[nodiscard]] std::uint64_t checksum() const;

 private:
  int size_;
  std::vector<std::uint32_t> pixels_;
};

}  // namespace probe
