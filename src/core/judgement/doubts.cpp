#include "core/judgement/doubts.h"

#include <algorithm>
#include <iterator>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/judgement/bench_doubts.h"

namespace core {
namespace {

using Doubts = std::vector<Doubt>;

void addDesignDoubts(Doubts& doubts, const Study& study, const Findings& findings) {
  if (findings.recorded_passes == 0) return;
  if (study.plan.order == Order::Blocked)
    doubts.push_back({"one_visit_per_level",
                      DoubtRank::Caution,
                      "One visit per level: a lucky flip, or a bench that warms up, looks like a change",
                      "Repeat the study there and back; each finding names how much flipping alone would have to add",
                      Place::Question,
                      {},
                      {}});
  else if (study.plan.order == Order::ThereAndBack)
    doubts.push_back({"two_visits_per_level",
                      DoubtRank::Note,
                      "Two visits per level are a rough look: flips are seen, but the interval is wide",
                      "More visits narrow it; more passes in a visit hardly do",
                      Place::Question,
                      {},
                      {}});
  if (!findings.opened_early.empty())
    doubts.push_back({"opened_early",
                      DoubtRank::Caution,
                      fmt::format("The results were opened before the plan was complete: {}", findings.opened_early),
                      "Stopping or going on by what they showed makes false findings; a fresh study does not have that",
                      Place::RunSheet,
                      {},
                      {}});
  if (!findings.is_plan_complete)
    doubts.push_back({"so_far",
                      DoubtRank::Note,
                      fmt::format("{} of {} passes are in: every verdict is so far only", findings.recorded_passes,
                                  findings.planned_passes),
                      "Finish the plan; stopping when it looks good makes false findings",
                      Place::RunSheet,
                      {},
                      {}});
}

void addFailedPasses(Doubts& doubts, const CaseFinding& finding) {
  if (finding.failed == 0) return;
  doubts.push_back({"failed/" + finding.title,
                    DoubtRank::Caution,
                    fmt::format("{}: {} failed and {} not in the result", finding.title,
                                finding.failed == 1 ? "1 pass" : fmt::format("{} passes", finding.failed),
                                finding.failed == 1 ? "is" : "are"),
                    "Read why on the run sheet",
                    Place::RunSheet,
                    finding.case_index,
                    {}});
}

// One sentence for all cases: thin lows come in flocks, and would bury what matters more.
void addThinLows(Doubts& doubts, const Findings& findings) {
  std::vector<std::string> titles;
  std::string which;
  for (const CaseFinding& finding : findings.cases) {
    const auto thin =
        std::find_if(finding.secondary.begin(), finding.secondary.end(), [](const auto& m) { return m.isThin(); });
    if (thin == finding.secondary.end()) continue;
    if (which.empty()) which = thin->name.substr(0, thin->name.find(','));
    titles.push_back(finding.title);
  }
  if (titles.empty()) return;
  doubts.push_back({"thin_lows",
                    DoubtRank::Note,
                    fmt::format("The {} rests on fewer than 10 frames in {}", which,
                                titles.size() == 1 ? titles.front() : fmt::format("{} cases", titles.size())),
                    "Longer passes help a low more than more of them",
                    Place::Findings,
                    {},
                    {}});
}

void addTooFewFrames(Doubts& doubts, const CaseFinding& finding) {
  if (!finding.fewest_frames || *finding.fewest_frames >= 500) return;
  doubts.push_back({"too_few_frames/" + finding.title,
                    DoubtRank::Caution,
                    fmt::format("{}: a pass has only {} frames, fewer than 500", finding.title, *finding.fewest_frames),
                    "Let each pass run longer",
                    Place::Findings,
                    finding.case_index,
                    {}});
}

// The improvement intervals of average and low do not overlap: the feel of the case and its average part ways.
void addLowsDisagree(Doubts& doubts, const CaseFinding& finding) {
  if (!finding.improvement.interval) return;
  for (const SecondaryMetric& low : finding.secondary) {
    if (low.fewest_frames == 0 || low.isThin() || !low.improvement) continue;
    if (low.improvement->lo <= finding.improvement.interval->hi &&
        low.improvement->hi >= finding.improvement.interval->lo)
      continue;
    doubts.push_back({"lows_disagree/" + finding.title,
                      DoubtRank::Caution,
                      fmt::format("{}: average and lows disagree: {} {}, {} {}", finding.title, finding.metric.name,
                                  percentText(finding.change.value), low.name,
                                  low.change ? percentText(low.change->value) : "unknown"),
                      "Decide by the one that your users feel",
                      Place::Findings,
                      finding.case_index,
                      {}});
    return;
  }
}

void addNoInterval(Doubts& doubts, const Study& study, const CaseFinding& finding) {
  if (!finding.effect || !finding.effect->contrast.no_interval) return;
  const bool is_too_few = *finding.effect->contrast.no_interval == NoInterval::TooFewPasses;
  doubts.push_back({"no_interval/" + finding.title,
                    DoubtRank::Caution,
                    finding.title + (is_too_few ? ": too few passes for an interval"
                                                : ": no spread between passes, the metric's resolution hides it"),
                    is_too_few ? "At least 2 counted passes are needed at each level" : "Use a metric with more digits",
                    is_too_few && study.plan.order != Order::BalancedShuffle && study.plan.passes_per_level < 2
                        ? Place::Question
                        : Place::RunSheet,
                    finding.case_index,
                    {}});
}

}  // namespace

const char* doubtRankName(DoubtRank rank) {
  switch (rank) {
    case DoubtRank::Stop: return "stop";
    case DoubtRank::Caution: return "caution";
    case DoubtRank::Note: return "note";
  }
  return "unknown";
}

std::vector<Doubt> doubtsOf(const Study& study, const Findings& findings, const Record& record, const BenchProof& proof,
                            std::vector<Doubt> of_passes) {
  Doubts doubts;
  for (const CaseFinding& finding : findings.cases) {
    addFailedPasses(doubts, finding);
    addNoInterval(doubts, study, finding);
    addLowsDisagree(doubts, finding);
    addTooFewFrames(doubts, finding);
  }
  if (findings.recorded_passes > 0)
    for (Doubt& doubt : benchDoubts(study, record, proof)) doubts.push_back(std::move(doubt));
  doubts.insert(doubts.end(), std::make_move_iterator(of_passes.begin()), std::make_move_iterator(of_passes.end()));
  addThinLows(doubts, findings);
  addDesignDoubts(doubts, study, findings);
  for (Doubt& doubt : doubts)
    for (const auto& [id, reason] : record.acceptances)
      if (id == doubt.id) doubt.accepted_because = reason;
  std::stable_sort(doubts.begin(), doubts.end(), [](const Doubt& a, const Doubt& b) {
    return std::pair(a.accepted_because.has_value(), a.rank) < std::pair(b.accepted_because.has_value(), b.rank);
  });
  return doubts;
}

}  // namespace core
