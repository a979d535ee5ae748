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

constexpr std::array<std::string_view, 12> kCounts{"passes", "passes_per_visit", "visits", "rounds", "n", "size",
                                                   "cases",  "family_size",      "limit",  "draws",  "k", "visit"};
constexpr double kMostOfAnything = 1e9;

core::Status checkNumber(const std::string& name, double number, const std::string& place) {
  if (name == "confidence" && !(number > 0 && number < 1))
    return Error{ErrorKind::OutOfRange, "the confidence must lie between 0 and 1", place, "Use 0.95 for 95 %"};
  const bool is_count = std::find(kCounts.begin(), kCounts.end(), name) != kCounts.end();
  if (is_count && !(number >= 0 && number <= kMostOfAnything && number == std::floor(number)))
    return Error{ErrorKind::OutOfRange, "a count is a whole number, not below 0", place, "Correct it"};
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
  }
  return core::Done{};
}

}  // namespace cli
