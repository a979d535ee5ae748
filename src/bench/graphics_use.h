#pragma once

#include <sys/types.h>

#include <optional>
#include <span>
#include <string>

namespace bench {

/// What processes use of graphics devices, as the kernel's drivers tell it of each open device file.
struct GraphicsUse {
  std::optional<double> busy_s;        ///< of all engines together, since they opened the device
  std::optional<double> memory_bytes;  ///< of the device's own memory; where it has none, of all that it uses

  bool operator==(const GraphicsUse&) const = default;
};

/// Of these processes together. A device file that several hold, or that was opened once and handed on, counts once.
/// Nothing where none of them has a device open whose driver tells. `proc`: where the kernel shows its processes.
/// Source  drm-usage-stats of the kernel's documentation
[[nodiscard]] std::optional<GraphicsUse> graphicsUse(std::span<const pid_t> processes,
                                                     const std::string& proc = "/proc");

}  // namespace bench
