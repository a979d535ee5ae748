#include "core/machine/samples.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include <fmt/format.h>

#include "core/values/median.h"

namespace core {
namespace {

// A fan may rest while its part is cool. Standing still above this it has failed.
constexpr double kHotC = 85;

std::vector<double> readable(const Channel& channel) {
  std::vector<double> values;
  std::copy_if(channel.values.begin(), channel.values.end(), std::back_inserter(values),
               [](double value) { return std::isfinite(value); });
  return values;
}

// A header without a fan reads 0 for good: only one that turned before can have failed.
bool hasTurned(const Channel& fan) {
  return std::any_of(fan.values.begin(), fan.values.end(), [](double rpm) { return rpm > 0; });
}

bool isHot(const Samples& samples, const std::string& part) {
  return std::any_of(samples.channels.begin(), samples.channels.end(), [&](const Channel& one) {
    return one.role == ChannelRole::Temperature && one.part == part && !one.values.empty() &&
           one.values.back() >= kHotC;
  });
}

}  // namespace

std::vector<ChannelSummary> summarize(const Samples& samples) {
  std::vector<ChannelSummary> summaries;
  for (const Channel& channel : samples.channels) {
    const std::vector<double> values = readable(channel);
    if (values.empty()) continue;
    const auto [lowest, highest] = std::minmax_element(values.begin(), values.end());
    const auto third = static_cast<std::ptrdiff_t>(std::max<std::size_t>(1, values.size() / 3));
    const double mean = std::accumulate(values.begin(), values.end(), 0.0) / static_cast<double>(values.size());
    summaries.push_back({channel.name, channel.unit, channel.role, channel.part, *lowest, medianOf(values), *highest,
                         medianOf({values.begin(), values.begin() + third}),
                         medianOf({values.end() - third, values.end()}), mean, values.back() - values.front(),
                         channel.critical});
  }
  return summaries;
}

std::optional<std::string> limitReached(const Samples& samples) {
  for (const Channel& channel : samples.channels) {
    if (channel.values.empty()) continue;
    const double now = channel.values.back();
    if (channel.role == ChannelRole::Temperature && channel.critical && now >= *channel.critical)
      return fmt::format("{} is at {:.0f} °C, its maker's critical temperature is {:.0f} °C", channel.name, now,
                         *channel.critical);
    if (channel.role == ChannelRole::Fan && now == 0 && hasTurned(channel) && isHot(samples, channel.part))
      return fmt::format("{} stands still while its part is above {:.0f} °C", channel.name, kHotC);
  }
  return std::nullopt;
}

std::optional<double> throttlings(const Samples& samples) {
  std::optional<double> sum;
  for (const Channel& channel : samples.channels) {
    const std::vector<double> values =
        channel.role == ChannelRole::Throttle ? readable(channel) : std::vector<double>{};
    if (!values.empty()) sum = sum.value_or(0) + values.back() - values.front();
  }
  return sum;
}

}  // namespace core
