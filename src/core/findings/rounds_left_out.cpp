#include "core/findings/rounds_left_out.h"

#include <algorithm>
#include <map>
#include <unordered_map>
#include <vector>

#include <fmt/format.h>

#include "core/record/sheet_ledger.h"

namespace core {
namespace {

/// What became of a configuration in a round.
struct Part {
  bool is_counted = false;
  bool is_to_come = false;
  bool is_begun = false;
  std::string why;
};

using Rounds = std::map<int, std::map<ConfigurationId, Part>>;

// What a slot's passes, or a person, say of why none of them counts.
std::unordered_map<std::size_t, std::string> reasons(const Findings& findings, const Record& record) {
  std::unordered_map<std::size_t, std::string> of_slot;
  for (const Pass& pass : record.passes)
    if (const auto why = findings.not_counted.find(pass.id); why != findings.not_counted.end())
      of_slot.try_emplace(pass.slot, why->second);
  for (const Skipped& one : record.skipped) of_slot.try_emplace(one.slot, one.reason);
  return of_slot;
}

std::vector<RoundLeftOut> leftOutOf(const Rounds& rounds, const Study& study) {
  std::vector<RoundLeftOut> left_out;
  for (const auto& [number, of_round] : rounds) {
    const auto& parts = of_round;  // a name that a closure may take
    const auto has = [&](bool Part::*what) {
      return std::any_of(parts.begin(), parts.end(), [&](const auto& one) { return one.second.*what; });
    };
    if (has(&Part::is_to_come) || !has(&Part::is_begun)) continue;
    const auto missing =
        std::find_if(parts.begin(), parts.end(), [](const auto& one) { return !one.second.is_counted; });
    if (missing == parts.end()) continue;
    const std::string& why = missing->second.why;
    left_out.push_back({number, why.empty() ? "no pass at " + study.nameOf(missing->first) : why});
  }
  return left_out;
}

}  // namespace

void fillRoundsLeftOut(Findings& findings, const Study& study, const Record& record, std::span<const Slot> schedule,
                       PairOf pair) {
  if (study.plan.order != Order::BalancedShuffle) return;
  const SheetLedger ledger(study, schedule, record);
  const auto why_of = reasons(findings, record);
  std::unordered_map<std::size_t, bool> counts;  // of each slot with a pass: does one count?
  for (const Pass& pass : record.passes) counts[pass.slot] |= findings.counted.contains(pass.id);
  std::vector<Rounds> of_case(findings.cases.size());
  for (std::size_t i = 0; i < schedule.size(); ++i) {
    const Slot& slot = schedule[i];
    if (slot.is_warm_up || (slot.configuration != pair.from && slot.configuration != pair.to)) continue;
    Part& part = of_case[slot.case_index][slot.round][slot.configuration];
    const auto recorded = counts.find(i);
    const auto why = why_of.find(i);
    part.is_begun = part.is_begun || recorded != counts.end() || why != why_of.end();
    part.is_counted = part.is_counted || (recorded != counts.end() && recorded->second);
    part.is_to_come = part.is_to_come || ledger.isPending(i);
    if (part.why.empty() && why != why_of.end()) part.why = why->second;
  }
  for (CaseFinding& finding : findings.cases) finding.rounds_left_out = leftOutOf(of_case[finding.case_index], study);
}

std::string roundsLeftOutText(const CaseFinding& finding) {
  std::string text;
  for (const RoundLeftOut& one : finding.rounds_left_out)
    text += fmt::format("{}Round {} is left out: {}.", text.empty() ? "" : " ", one.round, one.why);
  return text;
}

}  // namespace core
