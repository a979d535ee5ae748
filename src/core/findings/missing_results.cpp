#include "core/findings/missing_results.h"

#include <algorithm>
#include <set>

#include <fmt/format.h>

#include "core/record/sheet_ledger.h"

namespace core {
namespace {

class Missing {
 public:
  Missing(const Study& study, const Record& record, std::span<const Slot> schedule,
          std::span<const std::int64_t> retired_visits)
      : record_(record), schedule_(schedule), retired_(retired_visits), ledger_(study, schedule, record) {}

  [[nodiscard]] std::string reason(std::size_t case_index, ConfigurationId at) const {
    for (const Unreachable& one : record_.unreachable)
      if (one.configuration == at) return "not reachable: " + one.reason;
    bool has_failed = false;
    std::string does_not_run;
    bool is_retired = false;
    bool is_left_out = false;
    for (const Pass& pass : record_.passes) {
      if (!isOf(pass.slot, case_index, at)) continue;
      if (does_not_run.empty()) does_not_run = pass.does_not_run;
      has_failed = has_failed || pass.status == PassStatus::Failed;
      is_left_out = is_left_out || !pass.excluded_because.empty();
      is_retired = is_retired || std::find(retired_.begin(), retired_.end(), pass.visit_id) != retired_.end();
    }
    if (ledger_.awaits(case_index, at)) return "not run yet";
    if (is_retired) return "its visits are not comparable";
    if (!does_not_run.empty()) return "does not run: " + does_not_run;
    if (has_failed) return "its passes failed";
    if (is_left_out) return "its passes were left out";
    for (const Skipped& one : record_.skipped)
      if (isOf(one.slot, case_index, at)) return "skipped: " + one.reason;
    return "not run";
  }

 private:
  [[nodiscard]] bool isOf(std::size_t slot, std::size_t case_index, ConfigurationId at) const {
    return slot < schedule_.size() && schedule_[slot].counts(case_index, at);
  }

  const Record& record_;
  std::span<const Slot> schedule_;
  std::span<const std::int64_t> retired_;
  SheetLedger ledger_;
};

std::vector<MissingResult> cellsLeftOut(const Study& study) {
  std::vector<MissingResult> missing;
  if (study.shape != Shape::Crossed || study.configurations.empty()) return missing;
  std::set<std::vector<std::size_t>> listed;
  for (const Configuration& one : study.configurations) listed.insert(one.levels);
  for (std::size_t a = 0; a < study.variables[0].levels.size(); ++a)
    for (std::size_t b = 0; b < study.variables[1].levels.size(); ++b)
      if (!listed.contains({a, b}))
        missing.push_back({{},
                           fmt::format("{}, {}", study.variables[0].levels[a].name, study.variables[1].levels[b].name),
                           "not among the configurations that the study lists"});
  return missing;
}

}  // namespace

std::vector<MissingResult> missingResults(const Study& study, const Record& record, std::span<const Slot> schedule,
                                          std::span<const ComparableCase> cases,
                                          std::span<const std::int64_t> retired_visits) {
  const Missing why(study, record, schedule, retired_visits);
  std::vector<MissingResult> missing = cellsLeftOut(study);
  for (const ConfigurationId at : configurationsOf(study)) {
    const bool is_nowhere =
        std::none_of(cases.begin(), cases.end(), [&](const ComparableCase& one) { return one.hasResultAt(at); });
    if (is_nowhere && !cases.empty()) {
      missing.push_back({{}, study.nameOf(at), why.reason(0, at)});
      continue;
    }
    for (const ComparableCase& one : cases)
      if (!one.hasResultAt(at))
        missing.push_back({one.caseIndex(), study.nameOf(at), why.reason(*one.caseIndex(), at)});
  }
  return missing;
}

}  // namespace core
