#pragma once

#include <chrono>

#include "core/values/measurements.h"

namespace probe {

using core::Measurements;

/// Seconds that `work` takes, by the steady clock.
template <class Work>
double secondsOf(Work&& work) {
  const auto begin = std::chrono::steady_clock::now();
  work();
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
}

/// Keeps the optimiser from removing the work behind a value, at no cost.
template <class T>
inline void keep(T& value) {
  asm volatile("" : "+r"(value) : : "memory");
}

}  // namespace probe
