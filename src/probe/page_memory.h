#pragma once

#include <cstddef>
#include <cstdint>
#include <span>

namespace probe {

/// Main memory of our own on pages of a stated size, touched, so that it is there. Pages of 2 MiB spare the processor
/// most of its look-ups of addresses: what two levels are compared by must have the same.
class PageMemory {
 public:
  /// Empty where there is not so much. `is_huge`: 2 MiB where the kernel gives them; else the machine's own size.
  PageMemory(std::size_t bytes, bool is_huge);
  ~PageMemory();
  PageMemory(const PageMemory&) = delete;
  PageMemory& operator=(const PageMemory&) = delete;

  [[nodiscard]] std::span<std::uint64_t> words() const;
  /// Of 100, how much lies on pages of 2 MiB.
  [[nodiscard]] double hugePercent() const;

 private:
  void* begin_ = nullptr;
  std::size_t bytes_;
};

/// What the largest cache of a processor holds, MiB; 0 where nobody says.
[[nodiscard]] int largestCacheMiB();

}  // namespace probe
