#include "store/cabinet/day_span.h"

#include <charconv>
#include <chrono>
#include <limits>

namespace store {
namespace {

using std::chrono::sys_days;
using std::chrono::year_month_day;

std::optional<int> digits(std::string_view text, std::size_t count) {
  if (text.size() != count) return std::nullopt;
  int number = 0;
  const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), number);
  return error == std::errc() && end == text.data() + text.size() && number > 0 ? std::optional(number) : std::nullopt;
}

std::int64_t msOf(const year_month_day& day) {
  return std::chrono::duration_cast<std::chrono::milliseconds>(sys_days(day).time_since_epoch()).count();
}

// A year, a month or a day.
std::optional<DaySpan> periodOf(std::string_view text) {
  using namespace std::chrono;
  const auto of_year = digits(text.substr(0, 4), 4);
  if (!of_year) return std::nullopt;
  const year y(*of_year);
  if (text.size() == 4) return DaySpan{msOf(y / January / 1), msOf((y + years(1)) / January / 1)};
  const auto of_month = text.size() >= 7 && text[4] == '-' ? digits(text.substr(5, 2), 2) : std::nullopt;
  if (!of_month || *of_month > 12) return std::nullopt;
  const year_month ym = y / month(static_cast<unsigned>(*of_month));
  if (text.size() == 7) return DaySpan{msOf(ym / 1), msOf((ym + months(1)) / 1)};
  const auto of_day = text.size() == 10 && text[7] == '-' ? digits(text.substr(8, 2), 2) : std::nullopt;
  if (!of_day) return std::nullopt;
  const year_month_day date = ym / day(static_cast<unsigned>(*of_day));
  if (!date.ok()) return std::nullopt;
  return DaySpan{msOf(date), msOf(sys_days(date) + days(1))};
}

}  // namespace

std::optional<DaySpan> daySpanOf(std::string_view word) {
  const std::size_t dots = word.find("..");
  if (dots == std::string_view::npos) return word.size() > 4 ? periodOf(word) : std::nullopt;
  const std::string_view from = word.substr(0, dots);
  const std::string_view until = word.substr(dots + 2);
  if (from.empty() && until.empty()) return std::nullopt;
  DaySpan span{std::numeric_limits<std::int64_t>::min(), std::numeric_limits<std::int64_t>::max()};
  if (!from.empty()) {
    const auto begin = periodOf(from);
    if (!begin) return std::nullopt;
    span.from_ms = begin->from_ms;
  }
  if (!until.empty()) {
    const auto end = periodOf(until);
    if (!end) return std::nullopt;
    span.until_ms = end->until_ms;
  }
  return span;
}

}  // namespace store
