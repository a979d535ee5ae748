#include "core/values/utc_text.h"

#include <chrono>

#include <fmt/format.h>

namespace core {
namespace {

using Moment = std::chrono::sys_time<std::chrono::milliseconds>;

std::string dayOf(Moment moment) {
  const std::chrono::year_month_day day(std::chrono::floor<std::chrono::days>(moment));
  return fmt::format("{:04}-{:02}-{:02}", static_cast<int>(day.year()), static_cast<unsigned>(day.month()),
                     static_cast<unsigned>(day.day()));
}

}  // namespace

std::string utcText(std::int64_t ms) {
  const Moment moment{std::chrono::milliseconds(ms)};
  const auto time = std::chrono::floor<std::chrono::seconds>(moment - std::chrono::floor<std::chrono::days>(moment));
  const std::chrono::hh_mm_ss clock(time);
  return fmt::format("{}T{:02}:{:02}:{:02}Z", dayOf(moment), clock.hours().count(), clock.minutes().count(),
                     clock.seconds().count());
}

std::string utcDayText(std::int64_t ms) { return dayOf(Moment{std::chrono::milliseconds(ms)}); }

}  // namespace core
