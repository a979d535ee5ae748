#include "core/study/case_results.h"

#include <algorithm>
#include <cmath>
#include <set>

#include <fmt/format.h>

#include "core/values/number_pattern.h"

namespace core {
namespace {

// A pass is read once for each; a row of a table names them all.
constexpr std::size_t kMostFurther = 20;

bool isNamed(const std::string& text) { return text.find_first_not_of(" \t\n") != std::string::npos; }

class ResultProblems {
 public:
  explicit ResultProblems(std::string where) : where_(std::move(where)) {}

  void check(const CaseResult& result, const std::string& where) {
    const bool is_read = result.source == ResultSource::ByHand || result.source == ResultSource::Recorded ||
                         result.source == ResultSource::Pattern;
    unless(is_read || isNamed(result.field) || (result.source == ResultSource::File && !result.pattern.empty()),
           ErrorKind::Missing, where, "the place of the result is empty",
           "Name the log's column, or the JSON field such as result.seconds");
    if (result.source == ResultSource::Pattern || (result.source == ResultSource::File && !result.pattern.empty()))
      if (auto fine = checkPattern(result.pattern, where); !fine) list_.push_back(fine.error());
    unless(result.source != ResultSource::File || isNamed(result.path), ErrorKind::Missing, where,
           "nobody knows in which file the result stands", "Name the file as it is seen from the study's folder");
    unless(isNamed(result.metric.name) && isNamed(result.metric.unit), ErrorKind::Missing, where,
           "the metric needs a name and a unit", "Enter both, for example render time and s");
    unless(result.divide_by > 0 && std::isfinite(result.divide_by), ErrorKind::OutOfRange, where,
           "a result is divided by a number above 0", "Leave it out, or enter how many it sums up");
    const bool is_of_frames = result.source == ResultSource::FrameLog || result.source == ResultSource::Recorded;
    unless(!is_of_frames || result.divide_by == 1, ErrorKind::OutOfRange, where, "a frame rate is not divided",
           "Leave 'divide_by' out");
    unless(result.metric.scale == Scale::Ratio || result.metric.threshold >= 0, ErrorKind::OutOfRange, where,
           "a difference needs a threshold of 0 or more", "Enter the smallest difference worth acting on, in its unit");
  }

  void checkFurther(const Case& a_case) {
    std::set<std::string> names{a_case.called()};
    for (const CaseResult& one : a_case.further) {
      const std::string where = where_ + ", result '" + one.called() + "'";
      check(one, where);
      unless(isNamed(one.name) && one.name.size() <= 100 && one.name.find(';') == std::string::npos, ErrorKind::Missing,
             where, "a further result has no short name", "Name it in a few words: \"load time\"");
      unless(names.insert(one.name).second, ErrorKind::OutOfRange, where, "two results of a case are called alike",
             "Give each a name of its own");
      unless(one.source != ResultSource::FrameLog && one.source != ResultSource::Recorded, ErrorKind::OutOfRange, where,
             "frames are only taken for the headline", "Make it the headline, and the other a further result");
      unless((one.source == ResultSource::ByHand) == (a_case.source == ResultSource::ByHand), ErrorKind::OutOfRange,
             where, "a person types all results of a case, or none",
             "Take them all from where the headline comes from");
    }
    unless(a_case.further.size() <= kMostFurther, ErrorKind::OutOfRange, where_,
           fmt::format("a case has at most {} results beside its headline", kMostFurther),
           "Leave out what nobody asks");
  }

  void checkPossible(const Case& a_case) {
    const auto checkPlain = [&](const std::string& pattern, const std::string& where) {
      if (auto fine = checkMatcher(pattern, where); !fine) list_.push_back(fine.error());
    };
    const Possible& possible = a_case.possible;
    if (!possible.pattern.empty()) checkPlain(possible.pattern, where_ + ", does not run");
    std::set<std::string> names;
    for (const Condition& one : possible.conditions) {
      const std::string where = where_ + ", condition '" + one.name + "'";
      checkPlain(one.pattern, where);
      unless(isNamed(one.name) && one.name.size() <= 100 && names.insert(one.name).second, ErrorKind::Missing, where,
             "a condition has no short name of its own", "Name it in a few words: \"warned of low memory\"");
    }
    unless(std::none_of(possible.exit_codes.begin(), possible.exit_codes.end(),
                        [](int code) { return code < 1 || code > 255; }),
           ErrorKind::OutOfRange, where_ + ", does not run", "a code with which a program ends is 1 to 255",
           "0 means that it did its work");
    unless(!possible.isAsked() || a_case.source != ResultSource::ByHand, ErrorKind::OutOfRange, where_,
           "a result that is typed has no command that could say whether it runs", "Leave 'possible' out");
    unless(possible.conditions.size() <= kMostFurther && possible.exit_codes.size() <= kMostFurther,
           ErrorKind::OutOfRange, where_, fmt::format("there are at most {} conditions and codes", kMostFurther),
           "Leave out what nobody asks");
  }

  [[nodiscard]] std::vector<Error> take() { return std::move(list_); }

 private:
  void unless(bool is_fine, ErrorKind kind, const std::string& where, std::string what, std::string remedy) {
    if (!is_fine) list_.push_back({kind, std::move(what), where, std::move(remedy)});
  }
  std::string where_;
  std::vector<Error> list_;
};

}  // namespace

std::vector<Error> resultProblems(const Case& a_case, const std::string& where) {
  ResultProblems problems(where);
  problems.check(a_case, where);
  problems.checkFurther(a_case);
  problems.checkPossible(a_case);
  return problems.take();
}

bool namesLog(const Command& command) {
  return std::any_of(command.begin(), command.end(),
                     [](const std::string& word) { return word.find("{log}") != std::string::npos; });
}

std::vector<std::string> furtherResultNames(const std::vector<Case>& cases) {
  std::vector<std::string> names;
  for (const Case& a_case : cases)
    for (const CaseResult& one : a_case.further)
      if (std::find(names.begin(), names.end(), one.name) == names.end()) names.push_back(one.name);
  return names;
}

std::optional<std::size_t> furtherPlaceOf(const Case& a_case, const std::string& name) {
  for (std::size_t i = 0; i < a_case.further.size(); ++i)
    if (a_case.further[i].name == name) return i;
  return std::nullopt;
}

}  // namespace core
