#include "core/study/companion.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "core/study/case_results.h"
#include "core/study/study.h"

namespace core {
namespace {

// Long enough for a recording to be under way, or an archive to be read.
constexpr double kMostHeadStartS = 600;

bool isOfAFile(const CaseResult& result) { return result.source == ResultSource::File; }

bool readsAFile(const Case& a_case) {
  return isOfAFile(a_case) || std::any_of(a_case.further.begin(), a_case.further.end(), isOfAFile);
}

}  // namespace

std::vector<Error> companionProblems(const Case& a_case, const std::string& where_of_case) {
  std::vector<Error> problems;
  const Companion& companion = a_case.companion;
  const std::string where = where_of_case + ", companion";
  const auto unless = [&](bool is_fine, ErrorKind kind, std::string what, std::string remedy) {
    if (!is_fine) problems.push_back({kind, std::move(what), where, std::move(remedy)});
  };
  if (!companion.isAsked()) return problems;
  unless(companion.called().find_first_not_of(" \t\n") != std::string::npos && companion.called().size() <= 100,
         ErrorKind::Missing, "what runs beside the case has no program, or no short name",
         "Enter the program and its arguments, or leave the companion out");
  unless(companion.starts_before_s >= 0 && companion.starts_before_s <= kMostHeadStartS, ErrorKind::OutOfRange,
         fmt::format("what runs beside a case starts 0 to {:g} s before it", kMostHeadStartS), "5 s are usual");
  unless(a_case.source != ResultSource::ByHand, ErrorKind::OutOfRange,
         "a result that is typed has no pass beside which something could run", "Leave the companion out");
  unless(!namesLog(companion.command), ErrorKind::OutOfRange, "the frame log belongs to the case",
         "Take {log} out: what the companion prints is kept by itself");
  unless(companion.command != a_case.command || !readsAFile(a_case), ErrorKind::OutOfRange,
         "it is the case's own command, and both would write the file in which the result stands",
         "Have one of them write elsewhere, or take the result from the output");
  return problems;
}

std::optional<std::size_t> sameCaseAlone(const Study& study, std::size_t case_index) {
  if (!study.cases[case_index].companion.isAsked()) return std::nullopt;
  Case alone = study.cases[case_index];
  alone.companion = {};
  for (std::size_t i = 0; i < study.cases.size(); ++i) {
    Case other = study.cases[i];
    other.audience = alone.audience;  // whom it stands for changes nothing that is run
    if (other == alone) return i;
  }
  return std::nullopt;
}

}  // namespace core
