#pragma once

#include <sys/mman.h>

#include <cstdlib>
#include <memory>
#include <new>
#include <utility>
#include <vector>

namespace store {

inline constexpr std::size_t kHugePage = std::size_t{1} << 21;

/// Asks for large pages for the whole ones of some memory that nobody has touched yet. A wish; without it they are
/// small.
inline void wishForHugePages(void* memory, std::size_t bytes) {
  void* begin = memory;
  std::size_t room = bytes;
  if (std::align(kHugePage, kHugePage, begin, room) != nullptr)
    (void)::madvise(begin, room / kHugePage * kHugePage, MADV_HUGEPAGE);
}

/// Gives memory whose numbers are not set before somebody sets them, in pages as large as the system has: what millions
/// of numbers cost is mostly the first touch of their memory.
template <class T>
struct UnsetAllocator {
  using value_type = T;

  UnsetAllocator() = default;
  template <class U>
  UnsetAllocator(const UnsetAllocator<U>&) {}  // NOLINT(google-explicit-constructor): what allocators need

  T* allocate(std::size_t count) {
    const std::size_t bytes = count * sizeof(T);
    const bool is_large = bytes >= kHugePage;
    void* memory =
        is_large ? std::aligned_alloc(kHugePage, (bytes + kHugePage - 1) / kHugePage * kHugePage) : std::malloc(bytes);
    if (memory == nullptr) throw std::bad_alloc();
    if (is_large) wishForHugePages(memory, bytes);
    return static_cast<T*>(memory);
  }
  void deallocate(T* memory, std::size_t) { std::free(memory); }
  template <class U>
  void construct(U* at) {
    ::new (static_cast<void*>(at)) U;
  }
  template <class U, class... Arguments>
  void construct(U* at, Arguments&&... arguments) {
    std::construct_at(at, std::forward<Arguments>(arguments)...);
  }
  bool operator==(const UnsetAllocator&) const = default;
};

/// A column of a log.
using Numbers = std::vector<double, UnsetAllocator<double>>;

}  // namespace store
