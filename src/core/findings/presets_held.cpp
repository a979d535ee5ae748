#include "core/findings/presets_held.h"

#include <algorithm>

namespace core {
namespace {

bool holdsWithLow(const CaseFinding& finding, std::size_t configuration) {
  return !finding.secondary.empty() && finding.secondary.front().holds[configuration] == HoldsTarget::Holds;
}

bool holdsByAverage(const CaseFinding& finding, std::size_t configuration) {
  return (configuration == 0 ? finding.holds_baseline : finding.holds_changed) == HoldsTarget::Holds;
}

// Of cases in the order of their cost, the first that holds.
template <class Holds>
std::optional<std::size_t> firstOf(const std::vector<const CaseFinding*>& costliest_first, Holds&& holds) {
  for (const CaseFinding* finding : costliest_first)
    if (holds(*finding)) return finding->case_index;
  return std::nullopt;
}

}  // namespace

std::vector<PresetsHeld> presetsHeld(const Study& study, const Findings& findings) {
  std::vector<std::pair<std::string, std::vector<const CaseFinding*>>> workloads;
  for (const CaseFinding& finding : findings.cases) {
    if (finding.holds_baseline == HoldsTarget::DoesNotApply) continue;
    const std::string& name = study.cases[finding.case_index].workload;
    auto known = std::find_if(workloads.begin(), workloads.end(), [&](const auto& one) { return one.first == name; });
    if (known == workloads.end()) known = workloads.insert(workloads.end(), {name, {}});
    known->second.push_back(&finding);
  }
  std::vector<PresetsHeld> all;
  for (auto& [name, cases] : workloads) {
    if (cases.size() < 2) continue;
    std::stable_sort(cases.begin(), cases.end(), [](const CaseFinding* a, const CaseFinding* b) {
      return a->effect->level_baseline < b->effect->level_baseline;
    });
    PresetsHeld held{name, cases.front()->secondary.empty() ? "" : cases.front()->secondary.front().name, {}, {}};
    for (const std::size_t configuration : {0U, 1U}) {
      held.by_average[configuration] =
          firstOf(cases, [&](const CaseFinding& one) { return holdsByAverage(one, configuration); });
      held.with_low[configuration] =
          firstOf(cases, [&](const CaseFinding& one) { return holdsWithLow(one, configuration); });
    }
    all.push_back(std::move(held));
  }
  std::stable_partition(all.begin(), all.end(), [](const PresetsHeld& held) { return held.isCrossed(); });
  return all;
}

}  // namespace core
