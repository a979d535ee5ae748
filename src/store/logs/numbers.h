#pragma once

#include <sys/mman.h>

#include <cstdlib>
#include <memory>
#include <new>
#include <utility>
#include <vector>

namespace store {

/// Gives memory whose numbers are not set before somebody sets them, in pages as large as the system has: what millions
/// of numbers cost is mostly the first touch of their memory.
template <class T>
struct UnsetAllocator {
  using value_type = T;

  UnsetAllocator() = default;
  template <class U>
  UnsetAllocator(const UnsetAllocator<U>&) {}  // NOLINT(google-explicit-constructor): what allocators need

  T* allocate(std::size_t count) {
    constexpr std::size_t kHugePage = std::size_t{1} << 21;
    const std::size_t bytes = count * sizeof(T);
    const bool is_large = bytes >= kHugePage;
    void* memory =
        is_large ? std::aligned_alloc(kHugePage, (bytes + kHugePage - 1) / kHugePage * kHugePage) : std::malloc(bytes);
    if (memory == nullptr) throw std::bad_alloc();
    if (is_large) (void)::madvise(memory, bytes, MADV_HUGEPAGE);  // a wish; without it pages are small
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
