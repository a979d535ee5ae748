#include "core/findings/possible.h"

#include <algorithm>
#include <map>
#include <set>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/study/schedule.h"

namespace core {
namespace {

constexpr const char* kDoesNotRun = "does not run";

/// The passes of a case at one configuration, as they are counted one after the other.
struct Tried {
  int runs = 0;
  int does_not_run = 0;
  std::string reason;
  std::map<std::string, int> conditions;

  void take(const Pass& pass) {
    (pass.value ? runs : does_not_run) += 1;
    if (reason.empty()) reason = pass.does_not_run;
    for (const std::string& one : pass.conditions) ++conditions[one];
  }
};

PossibleAt answerOf(std::size_t case_index, ConfigurationId configuration, const Tried& tried, const Case& a_case) {
  PossibleAt one{case_index, configuration, PossibleAnswer::Runs, {}, tried.reason};
  const int all = tried.runs + tried.does_not_run;
  for (const Condition& condition : a_case.possible.conditions)
    if (const auto met = tried.conditions.find(condition.name); met != tried.conditions.end())
      one.conditions.push_back({condition.name, met->second, all});
  for (const auto& [name, passes] : tried.conditions) {  // those that a person said in words of their own
    const auto& designed = a_case.possible.conditions;
    const bool is_designed = std::any_of(designed.begin(), designed.end(),
                                         [&name = name](const Condition& condition) { return condition.name == name; });
    if (!is_designed) one.conditions.push_back({name, passes, all});
  }
  if (tried.runs == 0) {
    one.answer = PossibleAnswer::DoesNotRun;
    return one;
  }
  if (tried.does_not_run > 0) one.conditions.push_back({kDoesNotRun, tried.does_not_run, all});
  if (!one.conditions.empty()) one.answer = PossibleAnswer::RunsWithConditions;
  return one;
}

// By a pattern or an exit code that their design names; or a person who runs them said so.
std::set<std::size_t> casesThatTell(const Study& study, std::span<const Slot> schedule, std::span<const Pass> passes) {
  std::set<std::size_t> told;
  for (std::size_t i = 0; i < study.cases.size(); ++i)
    if (study.cases[i].possible.isAsked()) told.insert(i);
  for (const Pass& pass : passes)
    if (pass.slot < schedule.size() && (!pass.does_not_run.empty() || !pass.conditions.empty()))
      told.insert(schedule[pass.slot].case_index);
  return told;
}

}  // namespace

const char* possibleName(PossibleAnswer answer) {
  switch (answer) {
    case PossibleAnswer::Runs: return "runs";
    case PossibleAnswer::RunsWithConditions: return "runs_with_conditions";
    case PossibleAnswer::DoesNotRun: return "does_not_run";
  }
  return "unknown";
}

std::vector<PossibleAt> possibleOf(const Study& study, const Record& record,
                                   std::span<const std::int64_t> retired_visits) {
  const std::vector<Slot> schedule = scheduleOf(study);
  const std::set<std::size_t> told = casesThatTell(study, schedule, record.passes);
  if (told.empty()) return {};
  std::map<std::pair<std::size_t, ConfigurationId>, Tried> tried;
  for (const Pass& pass : record.passes) {
    const bool tells = pass.status == PassStatus::Finished && (pass.value || !pass.does_not_run.empty()) &&
                       pass.excluded_because.empty() && pass.slot < schedule.size();
    const bool is_retired =
        std::find(retired_visits.begin(), retired_visits.end(), pass.visit_id) != retired_visits.end();
    if (!tells || is_retired || schedule[pass.slot].is_warm_up) continue;
    const Slot& slot = schedule[pass.slot];
    if (told.contains(slot.case_index)) tried[{slot.case_index, slot.configuration}].take(pass);
  }
  std::vector<PossibleAt> all;
  for (const auto& [at, passes] : tried) all.push_back(answerOf(at.first, at.second, passes, study.cases[at.first]));
  return all;
}

std::vector<std::string> notPossibleSentences(const Study& study, std::span<const PossibleAt> possible) {
  std::vector<std::string> sentences;
  for (std::size_t i = 0; i < study.firstPartCases(); ++i) {
    std::vector<std::string> runs;
    std::vector<std::string> does_not;
    for (const PossibleAt& one : possible)
      if (one.case_index == i)
        (one.answer == PossibleAnswer::DoesNotRun ? does_not : runs).push_back(study.nameOf(one.configuration));
    const std::string title = study.cases[i].title();
    if (does_not.empty()) continue;
    if (runs.size() == 1)
      sentences.push_back(fmt::format("{} runs at {} only", title, runs.front()));
    else
      sentences.push_back(fmt::format("{} does not run at {}", title, fmt::join(does_not, ", ")));
  }
  return sentences;
}

std::string possibleText(const PossibleAt& one) {
  if (one.answer == PossibleAnswer::DoesNotRun) return fmt::format("{}: {}", kDoesNotRun, one.reason);
  std::string text = "runs";
  for (const ConditionMet& met : one.conditions)
    text += fmt::format(", {} in {} of {}", met.name, met.passes,
                        met.of == 1 ? "1 pass" : fmt::format("{} passes", met.of));
  return text;
}

}  // namespace core
