#include "core/machine/variable_kind.h"

namespace core {

std::vector<std::string> placedPatterns(std::string_view pattern, const std::string& device, const DevicePath& path) {
  const auto put = [&](std::string_view place, const std::string& address) {
    std::string text(pattern);
    return text.replace(text.find(place), place.size(), address);
  };
  if (pattern.find("{device}") != std::string_view::npos) return {put("{device}", device)};
  std::vector<std::string> placed;
  if (pattern.find("{slot}") != std::string_view::npos) {
    if (const Hop* hop = path.slotHop()) placed = {put("{slot}", hop->down), put("{slot}", hop->up)};
    return placed;
  }
  if (pattern.find("{path}") == std::string_view::npos) return {std::string(pattern)};
  for (const std::string& address : path.chain) placed.push_back(put("{path}", address));
  return placed;
}

}  // namespace core
