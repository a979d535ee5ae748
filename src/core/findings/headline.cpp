#include "core/findings/headline.h"

namespace core {

const CaseFinding* headlineCase(const Study& study, const Findings& findings) {
  if (findings.suite) return nullptr;
  const CaseFinding* only = nullptr;
  for (const CaseFinding& finding : findings.cases) {
    if (findings.cases.size() > 1 && !study.cases[finding.case_index].shouldRespond()) continue;
    if (only) return nullptr;
    only = &finding;
  }
  return only && (only->effect || only->difference) ? only : nullptr;
}

Verdict headlineVerdict(const Study& study, const Findings& findings) {
  if (findings.suite) return findings.suite->verdict;
  const CaseFinding* only = headlineCase(study, findings);
  return only ? only->verdict : Verdict::NotSettled;
}

}  // namespace core
