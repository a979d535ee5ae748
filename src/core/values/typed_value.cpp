#include "core/values/typed_value.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <optional>
#include <regex>
#include <sstream>

#include "core/values/number_text.h"

namespace core {
namespace {

Error unread(std::string_view text) {
  return {ErrorKind::Malformed, "'" + std::string(text) + "' is not a number", "typed result",
          "Type a number such as 57.3, or a range such as 50 to 60"};
}

struct Number {
  double value = 0;
  double step = 1;  ///< of its last digit
};

/// The signs of one typed number, and what they may mean.
struct Signs {
  std::optional<char> decimal;  ///< absent: every sign parts thousands, or there is none
  bool is_open = false;         ///< one sign with three digits behind it: thousands or decimals
};

Signs signsOf(const std::string& digits) {
  const auto points = std::count(digits.begin(), digits.end(), '.');
  const auto commas = std::count(digits.begin(), digits.end(), ',');
  const std::size_t last = digits.find_last_of(".,");
  if (points + commas == 0) return {};
  if (points > 0 && commas > 0) return {digits[last], false};
  if (points + commas > 1) return {};
  const std::size_t behind = std::min(digits.find_first_not_of("0123456789", last + 1), digits.size()) - last - 1;
  const std::size_t first = digits.find_first_of("0123456789");
  const bool is_group =
      behind == 3 && last + 1 + behind == digits.size() && first < last && last - first <= 3 && digits[first] != '0';
  return {digits[last], is_group};
}

// Groups of three behind the first one; without signs there are no groups.
bool areThousands(const std::string& whole, char sign) {
  static const std::string kDigits = "0123456789";
  std::size_t group = 0;
  bool is_first = true;
  for (const char c : whole) {
    if (c == sign) {
      if (is_first ? group == 0 || group > 3 : group != 3) return false;
      group = 0;
      is_first = false;
    } else if (kDigits.find(c) != std::string::npos) {
      ++group;
    }
  }
  return is_first || group == 3;
}

// Decimal digits with blanks between thousands, a decimal point or comma, perhaps an exponent.
Result<Number> numberFrom(std::string text, DecimalSign known, std::string_view typed) {
  std::erase_if(text, [](unsigned char c) { return std::isspace(c) != 0; });
  Signs signs = signsOf(text);
  if (known != DecimalSign::Unknown) {
    const char sign = known == DecimalSign::Comma ? ',' : '.';
    signs = {text.find(sign) == std::string::npos ? std::nullopt : std::optional(sign), false};
  }
  if (signs.is_open) {
    std::string thousands = text;
    std::string decimals = text;
    std::erase(thousands, *signs.decimal);
    std::replace(decimals.begin(), decimals.end(), *signs.decimal, '.');
    return Error{ErrorKind::Ambiguous, "'" + std::string(typed) + "' is " + thousands + " or " + decimals,
                 "typed result", "Say which sign parts the decimals, comma or point"};
  }
  const std::size_t decimal = signs.decimal ? text.rfind(*signs.decimal) : std::string::npos;
  const std::string whole = text.substr(0, decimal);
  for (const char sign : {'.', ','})
    if (!areThousands(whole, sign)) return unread(typed);
  std::string plain;
  for (std::size_t i = 0; i < text.size(); ++i) {
    if (i == decimal)
      plain += '.';
    else if (text[i] != '.' && text[i] != ',')
      plain += text[i];
    else if (i > decimal)
      return unread(typed);
  }
  static const std::regex kNumber(R"([+-]?(\d+)(\.(\d*))?([eE]([+-]?\d{1,3}))?)");
  std::smatch match;
  if (!std::regex_match(plain, match, kNumber)) return unread(typed);
  const auto decimals = static_cast<int>(match[3].length());
  const int exponent = match[5].matched ? std::atoi(match[5].str().c_str()) : 0;
  const auto value = numberOf(plain);
  if (!value) return unread(typed);  // more digits than any number has
  return Number{*value, std::pow(10.0, exponent - decimals)};
}

// "sky 41.2; dome 88": a name, blanks, a number.
Result<std::vector<std::pair<std::string, double>>> partsFrom(std::string_view text, DecimalSign decimal) {
  static const std::regex kPart(R"(^\s*(.*\S)\s+(\S+)\s*$)");
  std::vector<std::pair<std::string, double>> parts;
  std::istringstream list{std::string(text)};
  for (std::string part; std::getline(list, part, ';');) {
    if (part.find_first_not_of(" \t") == std::string::npos) continue;
    std::smatch match;
    const bool is_part = std::regex_match(part, match, kPart);
    const auto number = is_part ? numberFrom(match[2], decimal, part) : Result<Number>(unread(part));
    if (!number && number.error().kind == ErrorKind::Ambiguous) return number.error();
    if (!number)
      return Error{ErrorKind::Malformed, "'" + part + "' is not a sub-score", "typed result",
                   "Type its name and its number, as in: 57.3; sky 41.2; dome 88"};
    parts.emplace_back(match[1], number->value);
  }
  return parts;
}

}  // namespace

Result<TypedValue> parseTyped(std::string_view typed, DecimalSign decimal) {
  constexpr std::size_t kLongest = 200;
  if (typed.size() > kLongest)
    return Error{ErrorKind::OutOfRange, "this is longer than any result that a program shows", "typed result",
                 "Type the number, or the range, alone"};
  if (const auto end = typed.find(';'); end != std::string_view::npos) {
    auto whole = parseTyped(typed.substr(0, end), decimal);
    if (!whole) return whole;
    auto parts = partsFrom(typed.substr(end + 1), decimal);
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
    const auto lo = numberFrom(range[1], decimal, typed);
    const auto hi = numberFrom(range[2], decimal, typed);
    if (!lo) return lo.error();
    if (!hi) return hi.error();
    if (!(lo->value < hi->value))
      return Error{ErrorKind::OutOfRange, "the range '" + result.text + "' does not rise", "typed result",
                   "Type the lower number first"};
    result.value = (lo->value + hi->value) / 2;
    result.resolution = hi->value - lo->value;
    result.is_range = true;
    return result;
  }
  const auto number = numberFrom(bare, decimal, typed);
  if (!number) return number.error();
  constexpr double kMost = 1e15;  // a double tells every whole number up to here from its neighbours
  if (!std::isfinite(number->value)) return unread(typed);
  if (std::abs(number->value) > kMost)
    return Error{ErrorKind::OutOfRange, "this number has more digits than any program shows", "typed result",
                 "Check whether a key was held down, or a separator was left out"};
  result.value = number->value;
  result.resolution = number->step;
  return result;
}

DecimalSign decimalSignOf(const std::vector<std::string>& texts) {
  bool is_comma = false;
  bool is_point = false;
  static const std::regex kNumber(R"([0-9][0-9.,]*)");
  for (const std::string& text : texts)
    for (std::sregex_iterator number(text.begin(), text.end(), kNumber), end; number != end; ++number) {
      const std::string digits = number->str();
      const Signs signs = signsOf(digits);
      if (signs.is_open || digits.find_first_of(".,") == std::string::npos) continue;
      // Several of one sign part thousands, so the other one parts decimals.
      const char decimal = signs.decimal ? *signs.decimal : digits.find(',') != std::string::npos ? '.' : ',';
      (decimal == ',' ? is_comma : is_point) = true;
    }
  if (is_comma == is_point) return DecimalSign::Unknown;
  return is_comma ? DecimalSign::Comma : DecimalSign::Point;
}

}  // namespace core
