#include "cli/compute/compute_input.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <string_view>

namespace cli {
namespace {

using core::Error;
using core::ErrorKind;
using nlohmann::json;

constexpr std::array<std::string_view, 16> kCounts{"passes",
                                                   "passes_per_visit",
                                                   "visits",
                                                   "visits_baseline",
                                                   "visits_changed",
                                                   "rounds",
                                                   "round",
                                                   "n",
                                                   "m",
                                                   "size",
                                                   "cases",
                                                   "family_size",
                                                   "limit",
                                                   "draws",
                                                   "k",
                                                   "visit"};
constexpr double kMostOfAnything = 1e9;

core::Status checkNumber(const std::string& name, double number, const std::string& place) {
  if (name == "confidence" && !(number > 0 && number < 1))
    return Error{ErrorKind::OutOfRange, "the confidence must lie between 0 and 1", place, "Use 0.95 for 95 %"};
  const bool is_count = std::find(kCounts.begin(), kCounts.end(), name) != kCounts.end();
  if (is_count && !(number >= 0 && number <= kMostOfAnything && number == std::floor(number)))
    return Error{ErrorKind::OutOfRange, "a count is a whole number, not below 0", place, "Correct it"};
  return core::Done{};
}

// What a list of numbers may hold, by the list's name; what else is a list under a count's name holds measured values.
core::Status checkListed(const std::string& name, double number, const std::string& place) {
  if (name == "visits") return checkNumber("visit", number, place);
  if (name == "low_percents" && !(number > 0 && number < 100))
    return Error{ErrorKind::OutOfRange, "a low is of a share between 0 and 100 %", place, "Use 1 for the slowest 1 %"};
  if (name == "quantiles" && !(number >= 0 && number <= 1))
    return Error{ErrorKind::OutOfRange, "a quantile lies between 0 and 1", place, "Use 0.99 for the 99th percentile"};
  return core::Done{};
}

core::Status checkEnds(const json& object, const std::string& place) {
  for (const auto& [lo, hi] : {std::pair{"lo_percent", "hi_percent"}, std::pair{"lo", "hi"}}) {
    const auto low = object.find(lo);
    const auto high = object.find(hi);
    if (low == object.end() || high == object.end() || !low->is_number() || !high->is_number()) continue;
    if (low->get<double>() > high->get<double>())
      return Error{ErrorKind::OutOfRange, "the lower end of an interval lies above its upper one", place + "." + lo,
                   "Put the lower end first"};
  }
  return core::Done{};
}

}  // namespace

core::Status checkComputeInput(const json& input, const std::string& place) {
  if (input.is_object())
    if (auto checked = checkEnds(input, place); !checked) return checked;
  if (!input.is_structured()) return core::Done{};
  std::size_t at = 0;
  for (const auto& [name, value] : input.items()) {
    const std::string here = place + (input.is_object() ? "." + name : "[" + std::to_string(at++) + "]");
    const bool is_named_number = input.is_object() && value.is_number();
    auto checked = is_named_number ? checkNumber(name, value.get<double>(), here) : checkComputeInput(value, here);
    if (!checked) return checked;
    if (input.is_object() && value.is_array())
      for (const json& one : value)
        if (auto listed = one.is_number() ? checkListed(name, one.get<double>(), here) : core::Status(core::Done{});
            !listed)
          return listed;
  }
  return core::Done{};
}

}  // namespace cli
