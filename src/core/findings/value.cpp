#include "core/findings/value.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/study/prices.h"

namespace core {
namespace {

Value valueOf(PairOf pair, const Price& from, const Price& to, const ContrastFinding* found) {
  Value value{pair, from.currency, from.amount, to.amount - from.amount, {}, {}, {}, {}};
  if (found == nullptr || !found->is_log) return value;
  const PercentChange& improvement = found->improvement;
  value.improvement = improvement;
  if (value.extra_price > 0) value.percent_for_each_100 = 100 * improvement.value / value.extra_price;
  if (!(value.base_price > 0)) return value;
  const auto paidFor = [&](double percent) { return value.base_price * percent / 100; };
  value.paid_for_up_to = paidFor(improvement.value);
  if (const auto& interval = improvement.interval)
    value.paid_for_interval = std::pair(paidFor(interval->lo), paidFor(interval->hi));
  return value;
}

// What the headline says of a contrast; nothing where it speaks of several metrics, of which nobody can say which one
// is to be paid for.
const ContrastFinding* onlySubject(const ShapeFindings& findings, std::size_t asked) {
  const ContrastFinding* only = nullptr;
  for (const auto& subject : findings.subjects) {
    const ContrastFinding* found = findings.find(asked, subject);
    if (found != nullptr && only != nullptr) return nullptr;
    if (found != nullptr) only = found;
  }
  return only;
}

// A price as it was entered; what is worked out of an estimate has no cents.
std::string money(double amount) {
  return amount == std::round(amount) ? fmt::format("{:.0f}", amount) : fmt::format("{:.2f}", amount);
}
std::string about(double amount) {
  constexpr double kSmall = 10;  // of a few coins the first decimal tells
  const int decimals = std::abs(amount) < kSmall ? 1 : 0;
  const bool is_below = amount < (decimals == 1 ? -0.05 : -0.5);
  return fmt::format("{}{:.{}f}", is_below ? "−" : "", std::abs(amount), decimals);
}

// Whether it pays, where what is asked and what it is worth can be told apart.
std::string worth(const Value& value) {
  if (!value.paid_for_interval) return "whether it pays is not settled";
  const auto& [lo, hi] = *value.paid_for_interval;
  if (value.extra_price <= lo) return "worth it at this price";
  return value.extra_price > hi ? "not worth it at this price" : "whether it pays is not settled";
}

// Whoever saves asks the same the other way round: what is lost, against what is saved.
std::string savingText(const Value& value) {
  if (!value.paid_for_up_to) return {};
  if (value.improvement->value >= 0) return ": " + worth(value);
  std::string text = fmt::format(". What it loses is worth {} {}", about(-*value.paid_for_up_to), value.currency);
  if (const auto& interval = value.paid_for_interval)
    text += fmt::format(" ({} to {})", about(-interval->second), about(-interval->first));
  return text + " by the same measure, so " + worth(value);
}

}  // namespace

std::vector<Value> valuesOf(const Study& study, const ShapeFindings& findings) {
  std::vector<Value> values;
  for (std::size_t i = 0; i < findings.asked.size(); ++i) {
    const auto& pair = findings.asked[i].pair;
    const bool is_known =
        !pair || std::any_of(values.begin(), values.end(), [&](const Value& one) { return one.pair == *pair; });
    if (is_known) continue;
    const auto from = priceOf(study, pair->from);
    const auto to = priceOf(study, pair->to);
    if (from && to) values.push_back(valueOf(*pair, *from, *to, onlySubject(findings, i)));
  }
  return values;
}

std::string valueText(const Value& value, const Study& study) {
  const std::string from = study.nameOf(value.pair.from);
  const std::string to = study.nameOf(value.pair.to);
  if (value.extra_price == 0) return fmt::format("{} costs what {} does", to, from);
  const std::string more = fmt::format("{} {}", money(std::abs(value.extra_price)), value.currency);
  if (value.extra_price < 0) return fmt::format("{} costs {} less than {}", to, more, from) + savingText(value);
  std::string text = fmt::format("{} costs {} more than {}", to, more, from);
  if (!value.improvement) return text;
  text += fmt::format(": {} for each 100 {}", percentText(*value.percent_for_each_100), value.currency);
  if (!value.paid_for_up_to) return text;
  if (value.improvement->value <= 0) return text + fmt::format(". Nothing more is paid for: {}", worth(value));
  text += fmt::format(". As much performance for money as before: up to {} {} more", about(*value.paid_for_up_to),
                      value.currency);
  if (const auto& interval = value.paid_for_interval)
    text += fmt::format(" ({} to {})", about(interval->first), about(interval->second));
  return text + ", so " + worth(value);
}

}  // namespace core
