#include "core/memory_layout.h"

#include <string_view>

#include "core/links.h"

namespace core {

std::optional<double> MemoryLayout::peakGBps() const {
  return mts ? std::optional(memoryPeakGBps(*mts, bus_bits)) : std::nullopt;
}

MemoryLayout memoryLayout(const Capture& capture) {
  constexpr std::string_view kFamily = "dmi/memory/";
  MemoryLayout layout;
  bool is_mixed = false;
  for (const Fact& fact : capture.below(kFamily)) {
    if (!fact.isRead() || !fact.number) continue;
    if (fact.name.ends_with("/size")) {
      ++layout.sockets;
      const std::string locator = fact.name.substr(kFamily.size(), fact.name.rfind('/') - kFamily.size());
      if (*fact.number > 0) layout.modules.push_back({locator, *fact.number});
    }
    if (fact.name.ends_with("/data_width")) layout.bus_bits += static_cast<int>(*fact.number);
    if (!fact.name.ends_with("/configured_speed")) continue;
    is_mixed = is_mixed || (layout.mts && *layout.mts != *fact.number);
    layout.mts = fact.number;
  }
  if (is_mixed) layout.mts.reset();
  return layout;
}

}  // namespace core
