#include "core/typed_value.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <cstdlib>
#include <optional>
#include <regex>
#include <sstream>

namespace core {
namespace {

Error unread(std::string_view text) {
  return {ErrorKind::Malformed, "'" + std::string(text) + "' is no number", "typed result",
          "Type a number such as 57.3, or a range such as 50 to 60"};
}

struct Number {
  double value = 0;
  double step = 1;  ///< of its last digit
};

// Decimal digits with blanks between thousands, a decimal point or comma, perhaps an exponent.
std::optional<Number> numberFrom(std::string text) {
  std::erase_if(text, [](unsigned char c) { return std::isspace(c) != 0; });
  const auto decimal = text.find_last_of(".,");
  std::string plain;
  for (std::size_t i = 0; i < text.size(); ++i) {
    if (i == decimal)
      plain += '.';
    else if (text[i] != '.' && text[i] != ',')
      plain += text[i];
  }
  static const std::regex kNumber(R"([+-]?(\d+)(\.(\d*))?([eE]([+-]?\d{1,3}))?)");
  std::smatch match;
  if (!std::regex_match(plain, match, kNumber)) return std::nullopt;
  const auto decimals = static_cast<int>(match[3].length());
  const int exponent = match[5].matched ? std::atoi(match[5].str().c_str()) : 0;
  return Number{std::strtod(plain.c_str(), nullptr), std::pow(10.0, exponent - decimals)};
}

// "sky 41.2; dome 88": a name, blanks, a number.
Result<std::vector<std::pair<std::string, double>>> partsFrom(std::string_view text) {
  static const std::regex kPart(R"(^\s*(.*\S)\s+(\S+)\s*$)");
  std::vector<std::pair<std::string, double>> parts;
  std::istringstream list{std::string(text)};
  for (std::string part; std::getline(list, part, ';');) {
    if (part.find_first_not_of(" \t") == std::string::npos) continue;
    std::smatch match;
    const auto number = std::regex_match(part, match, kPart) ? numberFrom(match[2]) : std::nullopt;
    if (!number)
      return Error{ErrorKind::Malformed, "'" + part + "' is no sub-score", "typed result",
                   "Type its name and its number, as in: 57.3; sky 41.2; dome 88"};
    parts.emplace_back(match[1], number->value);
  }
  return parts;
}

}  // namespace

Result<TypedValue> parseTyped(std::string_view typed) {
  if (const auto end = typed.find(';'); end != std::string_view::npos) {
    auto whole = parseTyped(typed.substr(0, end));
    if (!whole) return whole;
    auto parts = partsFrom(typed.substr(end + 1));
    if (!parts) return parts.error();
    whole->parts = *std::move(parts);
    return whole;
  }
  std::string text(typed);
  static const std::regex kAbout(R"(^\s*(about|around|ca\.?|~)\s*)", std::regex::icase);
  static const std::regex kRange(R"(^(.*[0-9])\s*(?:to|–|-|\.\.|…)\s*([0-9].*)$)");
  TypedValue result{std::string(typed)};
  const std::string bare = std::regex_replace(text, kAbout, "");
  std::smatch range;
  if (std::regex_match(bare, range, kRange) && bare.find_first_of("eE") == std::string::npos) {
    const auto lo = numberFrom(range[1]);
    const auto hi = numberFrom(range[2]);
    if (!lo || !hi) return unread(typed);
    if (!(lo->value < hi->value))
      return Error{ErrorKind::OutOfRange, "the range '" + result.text + "' does not rise", "typed result",
                   "Type the lower number first"};
    result.value = (lo->value + hi->value) / 2;
    result.resolution = hi->value - lo->value;
    result.is_range = true;
    return result;
  }
  const auto number = numberFrom(bare);
  if (!number || !std::isfinite(number->value)) return unread(typed);
  result.value = number->value;
  result.resolution = number->step;
  return result;
}

}  // namespace core
