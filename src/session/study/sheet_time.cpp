#include "session/study/sheet_time.h"

#include <algorithm>
#include <vector>

namespace session {
namespace {

// How long it usually took from the last pass of one visit to the first of the next; the plan's settling before that is
// known.
double secondsBetweenVisits(const OpenStudy& open) {
  std::vector<double> gaps_s;
  const std::vector<core::Pass>& passes = open.recorded().passes;
  for (std::size_t i = 1; i < passes.size(); ++i)
    if (passes[i].visit_id != passes[i - 1].visit_id)
      gaps_s.push_back(static_cast<double>(passes[i].started_ms - passes[i - 1].started_ms) / 1000 -
                       passes[i - 1].duration_s);
  if (gaps_s.empty()) return open.study().plan.settle_s;
  // The middle one: a night in between is no flip.
  const auto middle = gaps_s.begin() + static_cast<std::ptrdiff_t>(gaps_s.size() / 2);
  std::nth_element(gaps_s.begin(), middle, gaps_s.end());
  return std::max(0.0, *middle);
}

}  // namespace

std::map<int, double> secondsByVisit(const OpenStudy& open) {
  std::map<std::size_t, std::pair<double, int>> by_case;
  std::pair<double, int> all;
  for (const core::Pass& pass : open.recorded().passes) {
    if (pass.status != core::PassStatus::Finished || !pass.does_not_run.empty())
      continue;  // a crash after a moment tells nothing
    for (auto* one : {&by_case[open.schedule()[pass.slot].case_index], &all}) {
      one->first += pass.duration_s;
      ++one->second;
    }
  }
  std::map<int, double> seconds;
  if (all.second == 0) return seconds;
  const int in_hand = open.visit() ? open.visit()->planned : 0;
  const core::SheetLedger ledger = open.ledger();
  for (std::size_t slot = 0; slot < open.schedule().size(); ++slot) {
    if (!ledger.isPending(slot)) continue;
    const int visit = open.schedule()[slot].visit;
    if (!seconds.contains(visit) && visit != in_hand) seconds[visit] = secondsBetweenVisits(open);
    const auto& [sum, count] = by_case[open.schedule()[slot].case_index];
    seconds[visit] += count > 0 ? sum / count : all.first / all.second;
    const core::Companion& companion = open.caseOf(slot).companion;
    if (companion.isAsked()) seconds[visit] += companion.starts_before_s;
  }
  return seconds;
}

std::optional<double> secondsLeft(const OpenStudy& open, double in_pass_s) {
  const auto by_visit = secondsByVisit(open);
  if (by_visit.empty() && open.nextSlot()) return std::nullopt;
  double left_s = 0;
  for (const auto& [visit, seconds] : by_visit) left_s += seconds;
  return std::max(0.0, left_s - in_pass_s);
}

}  // namespace session
