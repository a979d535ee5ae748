#include "core/record/bench_clock.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace core {
namespace {

constexpr double kMisleads_ms = 2000;  // nobody reads a second off two clocks, and no crystal drifts so far in a day

std::string muchText(double ms) {
  return std::abs(ms) < 10'000 ? fmt::format("{:.0f} ms", std::abs(ms)) : fmt::format("{:.0f} s", std::abs(ms) / 1000);
}

}  // namespace

std::string ClockDifference::text() const {
  if (std::abs(ahead_ms) <= within_ms)
    return fmt::format("the same as this computer's, within {:.0f} ms", std::ceil(within_ms));
  return fmt::format("{} {} this computer's, within {:.0f} ms", muchText(ahead_ms),
                     ahead_ms > 0 ? "ahead of" : "behind", std::ceil(within_ms));
}

std::string ClockDifference::remedy() const {
  if (std::abs(ahead_ms) < kMisleads_ms) return {};
  return "Set the one that is wrong before the sheet begins (timedatectl set-ntp true); each pass is told by both "
         "clocks";
}

std::int64_t BenchClock::atDesk(std::int64_t bench_ms) const {
  if (compared_.empty()) return bench_ms;
  const auto offAt = [&](const Compared& one) {
    return std::abs(static_cast<double>(bench_ms - one.at_ms) - one.difference.ahead_ms);
  };
  const auto nearest = std::min_element(compared_.begin(), compared_.end(),
                                        [&](const Compared& a, const Compared& b) { return offAt(a) < offAt(b); });
  return bench_ms - std::llround(nearest->difference.ahead_ms);
}

std::string BenchClock::sentence(std::size_t place) const {
  const Compared& now = compared_.at(place);
  std::string text = now.difference.text();
  if (place == 0) return text;
  const auto moved = [&](const Compared& since) { return now.difference.ahead_ms - since.difference.ahead_ms; };
  const Compared& before = compared_[place - 1];
  if (std::abs(moved(before)) >= kMisleads_ms)
    return text + fmt::format(
                      "; it was set, or jumped, by {} since they were compared before: a pass between is placed "
                      "by the nearer of the two",
                      muchText(moved(before)));
  constexpr double kHour_ms = 3'600'000;
  return text + fmt::format("; since they were first compared it went off by {:.0f} ms in {:.2f} h",
                            moved(compared_.front()),
                            static_cast<double>(now.at_ms - compared_.front().at_ms) / kHour_ms);
}

}  // namespace core
