#include "core/values/number_text.h"

#include <algorithm>
#include <clocale>
#include <cmath>
#include <utility>

#include <fast_float/fast_float.h>

namespace core {
namespace {

constexpr const char* kBlanks = " \t\r\n";

// The number at the start of a text, and what follows it.
std::optional<std::pair<double, std::string_view>> numberAndRest(std::string_view text) {
  text.remove_prefix(std::min(text.find_first_not_of(kBlanks), text.size()));
  if (text.starts_with('+') && !text.starts_with("+-")) text.remove_prefix(1);  // from_chars knows no plus sign
  double value = 0;
  const auto [end, code] = fast_float::from_chars(text.data(), text.data() + text.size(), value);
  if (code != std::errc() || !std::isfinite(value)) return std::nullopt;
  return std::pair(value, text.substr(static_cast<std::size_t>(end - text.data())));
}

}  // namespace

std::optional<double> numberOf(std::string_view text) {
  const auto number = numberAndRest(text);
  const bool is_whole = number && number->second.find_first_not_of(kBlanks) == std::string_view::npos;
  return is_whole ? std::optional(number->first) : std::nullopt;
}

std::optional<double> leadingNumber(std::string_view text) {
  const auto number = numberAndRest(text);
  return number ? std::optional(number->first) : std::nullopt;
}

std::optional<double> numberTyped(std::string text) {
  std::replace(text.begin(), text.end(), ',', '.');
  return numberOf(text);
}

void keepPlainLocale() {
  if (!std::setlocale(LC_ALL, "C.UTF-8")) std::setlocale(LC_ALL, "C");
}

}  // namespace core
