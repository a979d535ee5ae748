#include "core/findings/headline.h"

namespace core {

std::vector<Subject> headlineSubjects(const Study& study, bool has_suite) {
  std::vector<Subject> subjects;
  if (has_suite) subjects.emplace_back(std::nullopt);
  const std::size_t cases = study.firstPartCases();
  for (std::size_t i = 0; i < cases; ++i) {
    const Case& one = study.cases[i];
    const bool is_summed_up = has_suite && one.metric.scale == Scale::Ratio;
    if (cases == 1 || (one.shouldRespond() && !is_summed_up)) subjects.emplace_back(i);
  }
  return subjects;
}

const CaseFinding* headlineCase(const Study& study, const Findings& findings) {
  const auto subjects = headlineSubjects(study, findings.suite.has_value());
  if (findings.suite || subjects.size() != 1) return nullptr;
  const CaseFinding& only = findings.cases[*subjects.front()];
  return only.effect || only.difference ? &only : nullptr;
}

Verdict headlineVerdict(const Study& study, const Findings& findings) {
  if (findings.suite) return findings.suite->verdict;
  const CaseFinding* only = headlineCase(study, findings);
  return only ? only->verdict : Verdict::NotSettled;
}

}  // namespace core
