#include "core/machine/memory_layout.h"

#include <algorithm>
#include <map>
#include <string_view>

#include <fmt/format.h>

#include "core/machine/links.h"

namespace core {

std::optional<double> MemoryLayout::peakGBps() const {
  return mts && bus_bits > 0 ? std::optional(memoryPeakGBps(*mts, bus_bits)) : std::nullopt;
}

namespace {

std::string lowered(std::string_view text) {
  std::string low(text);
  for (char& one : low)
    if (one >= 'A' && one <= 'Z') one = static_cast<char>(one - 'A' + 'a');
  return low;
}

bool isDigit(char one) { return one >= '0' && one <= '9'; }

// What stands behind the word: "a" of "p0 channel a", "channela-dimm0" and "dimm_a2"; free text of the board's maker.
std::string channelBehind(const std::string& text, std::string_view word) {
  const auto at = text.find(word);
  if (at == std::string::npos) return {};
  std::size_t from = at + word.size();
  while (from < text.size() && (text[from] == ' ' || text[from] == '_' || text[from] == '-')) ++from;
  if (from >= text.size()) return {};
  // Which socket it belongs to stands before: "p0 channel a" is not "p1 channel a".
  return text.substr(0, at) + text[from];
}

}  // namespace

std::string memoryChannel(std::string_view bank, std::string_view locator) {
  for (const std::string& text : {lowered(bank), lowered(locator)})
    if (const std::string channel = channelBehind(text, "channel"); !channel.empty()) return channel;
  const std::string channel = channelBehind(lowered(locator), "dimm");
  return channel.empty() || isDigit(channel.back()) ? "" : channel;  // "DIMM 0" counts slots
}

MemoryLayout memoryLayout(const Capture& capture) {
  constexpr std::string_view kFamily = "dmi/memory/";
  MemoryLayout layout;
  bool is_mixed = false;
  std::map<std::string, int> channels;  // and the width of each
  for (const Fact& fact : capture.below(kFamily)) {
    if (!fact.isRead() || !fact.number) continue;
    if (fact.name.ends_with("/size")) {
      ++layout.sockets;
      const std::string locator = fact.name.substr(kFamily.size(), fact.name.rfind('/') - kFamily.size());
      if (*fact.number > 0) layout.modules.push_back({locator, *fact.number});
    }
    if (fact.name.ends_with("/data_width")) {
      const std::string module = fact.name.substr(0, fact.name.rfind('/') + 1);
      if (capture.number(module + "size").value_or(0) <= 0) continue;
      const Fact* bank = capture.find(module + "bank");
      const std::string locator = module.substr(kFamily.size(), module.size() - 1 - kFamily.size());
      const std::string channel = memoryChannel(bank && bank->isRead() ? bank->shown() : "", locator);
      int& bits = channels[channel.empty() ? module : channel];  // of unknown channel it has one of its own
      bits = std::max(bits, static_cast<int>(*fact.number));
    }
    if (!fact.name.ends_with("/configured_speed")) continue;
    is_mixed = is_mixed || (layout.mts && *layout.mts != *fact.number);
    layout.mts = fact.number;
  }
  if (is_mixed) layout.mts.reset();
  layout.channels = static_cast<int>(channels.size());
  for (const auto& [channel, bits] : channels) layout.bus_bits += bits;
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
