#include "core/values/number_pattern.h"

#define PCRE2_CODE_UNIT_WIDTH 8
#include <pcre2.h>

#include <array>
#include <chrono>
#include <memory>
#include <optional>

#include <fmt/format.h>

#include "core/values/number_text.h"
#include "core/values/shown_text.h"

namespace core {
namespace {

constexpr std::size_t kLongest = 500;
// For all matches of a text together.
constexpr std::chrono::seconds kMostTime{5};
constexpr const char* kRemedy = "Write it as a regular expression, for example \"loaded in ([0-9.]+) s\"";

/// Frees what the library allocated.
struct Freed {
  void operator()(pcre2_code* code) const { pcre2_code_free(code); }
  void operator()(pcre2_match_data* data) const { pcre2_match_data_free(data); }
  void operator()(pcre2_match_context* context) const { pcre2_match_context_free(context); }
};

/// Where a group of a match lies in the text.
struct Span {
  std::size_t begin = 0;
  std::size_t end = 0;
};

/// A regular expression, and what one search of it may cost: a stranger's must not hold the program up.
class Pattern {
 public:
  static Result<Pattern> compile(const std::string& text, const std::string& where) {
    const auto wrong = [&](ErrorKind kind, std::string what) { return Error{kind, std::move(what), where, kRemedy}; };
    if (text.empty()) return wrong(ErrorKind::Malformed, "the pattern is empty");
    if (text.size() > kLongest)
      return wrong(ErrorKind::OutOfRange, fmt::format("the pattern is longer than {} characters", kLongest));
    int number = 0;
    PCRE2_SIZE at = 0;
    Pattern made;
    made.code_.reset(pcre2_compile(reinterpret_cast<PCRE2_SPTR>(text.data()), text.size(),
                                   PCRE2_MULTILINE | PCRE2_NEVER_BACKSLASH_C, &number, &at, nullptr));
    if (made.code_) {
      made.data_.reset(pcre2_match_data_create_from_pattern(made.code_.get(), nullptr));
      made.limits_.reset(pcre2_match_context_create(nullptr));
      pcre2_set_match_limit(made.limits_.get(), 10'000'000);  // less than a second
      pcre2_set_heap_limit(made.limits_.get(), 20'000);       // KiB
      return made;
    }
    std::array<PCRE2_UCHAR, 200> said{};
    pcre2_get_error_message(number, said.data(), said.size());
    return wrong(ErrorKind::Malformed, fmt::format("the pattern cannot be read at its character {}: {}", at + 1,
                                                   reinterpret_cast<const char*>(said.data())));
  }

  [[nodiscard]] bool hasGroup() const {
    std::uint32_t groups = 0;
    pcre2_pattern_info(code_.get(), PCRE2_INFO_CAPTURECOUNT, &groups);
    return groups > 0;
  }

  /// The spans of the next match from there on, the whole first; nothing where there is none.
  [[nodiscard]] std::optional<std::array<Span, 2>> find(std::string_view text, std::size_t from) {
    const int found = pcre2_match(code_.get(), reinterpret_cast<PCRE2_SPTR>(text.data()), text.size(), from, 0,
                                  data_.get(), limits_.get());
    gave_up_ = found < 0 && found != PCRE2_ERROR_NOMATCH;
    if (found < 0) return std::nullopt;
    const PCRE2_SIZE* const ends = pcre2_get_ovector_pointer(data_.get());
    const bool is_group_set = found > 1 && ends[2] != PCRE2_UNSET;
    return std::array<Span, 2>{Span{ends[0], ends[1]}, is_group_set ? Span{ends[2], ends[3]} : Span{}};
  }
  /// Did the last search cost more than it may?
  [[nodiscard]] bool gaveUp() const { return gave_up_; }

 private:
  Pattern() = default;
  std::unique_ptr<pcre2_code, Freed> code_;
  std::unique_ptr<pcre2_match_data, Freed> data_;
  std::unique_ptr<pcre2_match_context, Freed> limits_;
  bool gave_up_ = false;
};

}  // namespace

Status checkMatcher(const std::string& pattern, const std::string& where) {
  const auto compiled = Pattern::compile(pattern, where);
  return compiled ? Status(Done{}) : Status(compiled.error());
}

Status checkPattern(const std::string& pattern, const std::string& where) {
  const auto compiled = Pattern::compile(pattern, where);
  if (!compiled) return compiled.error();
  if (compiled->hasGroup()) return Done{};
  return Error{ErrorKind::Malformed, "the pattern has no group, so nobody knows which of its characters are the number",
               where, "Put the number's part into parentheses: \"loaded in ([0-9.]+) s\""};
}

Result<double> lastNumberIn(std::string_view text, const std::string& pattern, const std::string& where) {
  if (auto fine = checkPattern(pattern, where); !fine) return fine.error();
  auto compiled = Pattern::compile(pattern, where);
  std::optional<std::string_view> last;
  std::size_t from = 0;
  bool is_too_long = false;
  const auto began = std::chrono::steady_clock::now();
  while (from <= text.size() && !is_too_long) {
    const auto match = compiled->find(text, from);
    if (!match) break;
    is_too_long = std::chrono::steady_clock::now() - began > kMostTime;
    const auto& [whole, group] = *match;
    last = text.substr(group.begin, group.end - group.begin);
    from = whole.end > from ? whole.end : from + 1;
  }
  if (is_too_long || compiled->gaveUp())
    return Error{ErrorKind::OutOfRange, "the pattern '" + pattern + "' takes too long", where,
                 "Write it without repetitions within repetitions"};
  if (!last)
    return Error{ErrorKind::Missing, "nothing matches the pattern '" + pattern + "'", where,
                 "Compare it with what the program prints"};
  if (const auto number = numberOf(*last)) return *number;
  constexpr std::size_t kShown = 60;
  return Error{
      ErrorKind::OutOfRange,
      fmt::format("'{}', which the pattern '{}' finds, is not a number", shownLine(cutText(*last, kShown)), pattern),
      where, "Have its group match the digits alone, with a point before decimals"};
}

bool doesMatch(std::string_view text, const std::string& pattern) {
  auto compiled = Pattern::compile(pattern, "");
  return compiled && compiled->find(text, 0);
}

}  // namespace core
