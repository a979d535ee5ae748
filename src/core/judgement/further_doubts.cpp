#include "core/judgement/further_doubts.h"

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/values/percent.h"

namespace core {

// How the result itself moved: a time that got longer rose, and is no improvement.
static std::string movedText(const FurtherFinding& finding, const Metric& metric) {
  if (!finding.improvement || metric.direction == Direction::HigherIsBetter) return finding.changeText(metric.unit);
  const auto turned = [](double percent) { return percentOfLn(-lnOfPercent(percent)); };
  PercentChange change{turned(finding.improvement->value), {}};
  if (const auto& interval = finding.improvement->interval)
    change.interval = PercentInterval{turned(interval->hi), turned(interval->lo)};
  return changeText(change);
}

std::vector<Doubt> furtherDoubts(const Study& study, std::span<const FurtherFinding> further) {
  DoubtList doubts;
  for (const FurtherFinding& one : further) {
    const Case& a_case = study.cases[one.case_index];
    const CaseResult& result = a_case.further[one.place];
    const DoubtSubject about{fmt::format("{}/{}", a_case.title(), result.name), one.case_index};
    const bool is_small = one.verdict == Verdict::NoDifferenceThatMatters || one.verdict == Verdict::RealButNegligible;
    if (result.is_control && !is_small && one.doesExcludeZero())
      doubts.add(doubt::kControlMoved, about,
                 fmt::format("{} of {} moved by {}, and it should not respond: something else moved too", result.name,
                             a_case.title(), movedText(one, result.metric)),
                 "Look for what else changed; the other results carry it too");
    std::string reason = one.first_reason;  // a sentence, in the middle of one
    if (reason.ends_with('.')) reason.pop_back();
    if (one.missing > 0)
      doubts.add(doubt::kFurtherMissing, about,
                 fmt::format("{} of {} is missing in {}{}", result.name, a_case.title(),
                             one.missing == 1 ? "1 pass" : fmt::format("{} passes", one.missing),
                             reason.empty() ? "" : ": " + reason),
                 "Compare what the program prints there with where the result is looked for");
  }
  return doubts.take();
}

}  // namespace core
