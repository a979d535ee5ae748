#include "core/machine/processor_lists.h"

#include <charconv>
#include <map>
#include <optional>
#include <string>

namespace core {
namespace {

std::optional<int> processorNumber(std::string_view text) {
  int number = 0;
  const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), number);
  return error == std::errc() && end == text.data() + text.size() ? std::optional(number) : std::nullopt;
}

template <class Take>
void forEachPart(std::string_view text, std::string_view separator, const Take& take) {
  while (!text.empty()) {
    const std::size_t end = std::min(text.find(separator), text.size());
    take(text.substr(0, end));
    text.remove_prefix(std::min(end + separator.size(), text.size()));
  }
}

std::map<int, std::string> byProcessor(std::string_view setting, std::string_view online) {
  std::map<int, std::string> settings;
  if (setting.find(": ") == std::string_view::npos) {
    for (const int processor : processorsIn(online)) settings[processor] = setting;
    return settings;
  }
  forEachPart(setting, ", ", [&](std::string_view group) {
    const std::size_t colon = std::min(group.find(": "), group.size());
    const std::string_view value = group.substr(std::min(colon + 2, group.size()));
    forEachPart(group.substr(0, colon), " ", [&](std::string_view who) {
      if (const auto processor = processorNumber(who)) settings[*processor] = value;
    });
  });
  return settings;
}

}  // namespace

std::vector<int> processorsIn(std::string_view list) {
  constexpr int kMost = 1 << 16;
  std::vector<int> processors;
  forEachPart(list, ",", [&](std::string_view part) {
    const auto dash = part.find('-');
    const auto first = processorNumber(part.substr(0, dash));
    const auto last = dash == std::string_view::npos ? first : processorNumber(part.substr(dash + 1));
    if (!first || !last) return;
    for (int n = *first; n <= std::min(*last, kMost); ++n) processors.push_back(n);
  });
  return processors;
}

bool isSameOnSharedProcessors(std::string_view setting, std::string_view online, std::string_view other_setting,
                              std::string_view other_online) {
  const auto here = byProcessor(setting, online);
  const auto there = byProcessor(other_setting, other_online);
  bool is_any_shared = false;
  for (const auto& [processor, value] : here) {
    const auto other = there.find(processor);
    if (other == there.end()) continue;
    is_any_shared = true;
    if (other->second != value) return false;
  }
  return is_any_shared || setting == other_setting;
}

}  // namespace core
