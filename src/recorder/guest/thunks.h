#pragma once

#include <array>
#include <atomic>
#include <cstddef>
#include <mutex>
#include <utility>

#include "recorder/guest/real_functions.h"

namespace recorder {

/// Functions of ours that stand for functions of several libraries: each library's own is called, whichever asks.
/// `Hook` has `name`, the type `Function`, and `around`, which takes the real function and its arguments.
template <class Hook, class Function = typename Hook::Function>
class Thunks;

template <class Hook, class Return, class... Arguments>
class Thunks<Hook, Return(Arguments...)> {
 public:
  using Pointer = Return (*)(Arguments...);

  /// One that calls `real`; `real` itself where there are too many, which only means that nothing is recorded.
  static Pointer around(Pointer real) {
    for (std::size_t i = 0; i < kMost; ++i) {
      Pointer held = nullptr;
      if (reals[i].compare_exchange_strong(held, real) || held == real) return table[i];
    }
    // Of a library that is gone nobody has a thunk any more.
    for (std::size_t i = 0; i < kMost; ++i) {
      Pointer held = reals[i].load();
      if (!isLoaded(reinterpret_cast<const void*>(held)) && reals[i].compare_exchange_strong(held, real))
        return table[i];
    }
    return real;
  }

 private:
  static constexpr std::size_t kMost = 24;
  static inline std::array<std::atomic<Pointer>, kMost> reals{};

  template <std::size_t I>
  static Return thunk(Arguments... arguments) {
    return Hook::around(reals[I].load(std::memory_order_relaxed), arguments...);
  }
  template <std::size_t... I>
  static constexpr std::array<Pointer, kMost> makeTable(std::index_sequence<I...> /*all*/) {
    return {thunk<I>...};
  }
  static constexpr std::array<Pointer, kMost> table = makeTable(std::make_index_sequence<kMost>());
};

/// What calls that reach our exported function by its name would have reached without us, for each place that calls.
template <class Hook>
typename Hook::Function* behindUs(const void* caller) {
  using Pointer = typename Hook::Function*;
  struct CallSite {
    std::atomic<const void*> caller = nullptr;
    std::atomic<Pointer> real = nullptr;    // written before what follows, and before `caller`
    std::atomic<unsigned> found_after = 0;  // so many libraries had been given back
  };
  static std::array<CallSite, 32> sites;
  const unsigned given_back = unloads();
  for (const CallSite& site : sites) {
    const void* known = site.caller.load(std::memory_order_acquire);
    if (known == caller && site.found_after.load(std::memory_order_acquire) == given_back) return site.real;
    if (known == nullptr) break;
  }
  const auto real = reinterpret_cast<Pointer>(functionBehindUs(Hook::name, caller));
  if (real == nullptr) return nullptr;  // its library may come later
  static std::mutex adding;
  const std::lock_guard lock(adding);
  for (CallSite& site : sites) {
    const void* known = site.caller.load(std::memory_order_relaxed);
    if (known != nullptr && known != caller) continue;
    site.real = real;
    site.found_after.store(given_back, std::memory_order_release);
    site.caller.store(caller, std::memory_order_release);
    break;
  }
  return real;
}

}  // namespace recorder
