#include "core/machine/memory_layout.h"

#include <algorithm>
#include <string_view>

#include <fmt/format.h>

#include "core/machine/links.h"

namespace core {

std::optional<double> MemoryLayout::peakGBps() const {
  return mts && bus_bits > 0 ? std::optional(memoryPeakGBps(*mts, bus_bits)) : std::nullopt;
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

MemoryRating memoryRating(const Capture& capture) {
  MemoryRating rating;
  const auto add = [](std::vector<std::string>& list, std::string sentence) {
    if (std::find(list.begin(), list.end(), sentence) == list.end()) list.push_back(std::move(sentence));
  };
  for (const Fact& fact : capture.below("dmi/memory/")) {
    if (!fact.isRead() || !fact.number) continue;
    const std::string module = fact.name.substr(0, fact.name.rfind('/') + 1);
    if (fact.name.ends_with("/configured_speed")) {
      const auto rated = capture.number(module + "rated_speed");
      if (rated && *fact.number > *rated)
        add(rating.above, fmt::format("memory runs at {:g} MT/s, above its rating of {:g} MT/s", *fact.number, *rated));
      if (rated && *fact.number < *rated)
        add(rating.below, fmt::format("memory runs at {:g} MT/s, below its rating of {:g} MT/s", *fact.number, *rated));
    }
    if (fact.name.ends_with("/configured_voltage")) {
      const auto most = capture.number(module + "most_voltage");
      if (most && *fact.number > *most)
        add(rating.above,
            fmt::format("memory runs at {:g} mV, above the {:g} mV that its module names", *fact.number, *most));
    }
  }
  return rating;
}

}  // namespace core
