#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/machine/fact.h"

namespace core {

/// Main memory as a capture tells it. Empty where nobody may read the firmware's tables.
struct MemoryLayout {
  struct Module {
    std::string locator;
    double size_bytes = 0;
  };
  int sockets = 0;              ///< filled or not
  std::vector<Module> modules;  ///< that are there
  std::optional<double> mts;    ///< at which they run; absent where they differ or it was not read
  int channels = 0;             ///< with a module; modules that share one do not add to the rate
  int bus_bits = 0;             ///< of all channels together

  /// Absent where the rate is.
  [[nodiscard]] std::optional<double> peakGBps() const;
};

/// The channel of a module, by the firmware's text of its bank and its place: free text, so that it is assumed, not
/// known. Empty where neither names one.
[[nodiscard]] std::string memoryChannel(std::string_view bank, std::string_view locator);

[[nodiscard]] MemoryLayout memoryLayout(const Capture& capture);

/// How modules run against what they are made for, as sentences; modules that are alike share one.
struct MemoryRating {
  std::vector<std::string> above;  ///< their rate or their voltage
  std::vector<std::string> below;  ///< their rate
};
[[nodiscard]] MemoryRating memoryRating(const Capture& capture);

}  // namespace core
