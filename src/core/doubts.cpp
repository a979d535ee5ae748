#include "core/doubts.h"

#include <algorithm>
#include <iterator>

#include <fmt/format.h>

#include "core/wording.h"

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

std::string joined(const std::vector<std::string>& sentences) {
  constexpr std::size_t kMost = 3;  // the rest is on the bench page
  std::string text;
  for (std::size_t i = 0; i < std::min(kMost, sentences.size()); ++i) text += (i > 0 ? "; " : "") + sentences[i];
  if (sentences.size() > kMost) text += fmt::format("; and {} more", sentences.size() - kMost);
  return text;
}

void addUnproved(Doubts& doubts, const Study& study, const BenchProof& proof) {
  const Comparison& levels = *proof.levels;
  const std::string between = fmt::format("between {} and {}", study.levels[0].name, study.levels[1].name);
  if (proof.verdict == ProofVerdict::DidNotMove)
    doubts.push_back(
        {"did_not_move",
         DoubtRank::Stop,
         fmt::format("The {} did not move {}: {}", study.variable, between, proof.reason),
         "Set the level again and see that it takes hold; one that cannot be reached is a result, to be recorded",
         Place::Bench,
         {},
         {}});
  if (proof.verdict == ProofVerdict::MovedElsewhere)
    doubts.push_back({"moved_elsewhere",
                      DoubtRank::Stop,
                      fmt::format("The {} moved elsewhere, not where it was declared, {}: {}", study.variable, between,
                                  proof.reason),
                      "Set the slot or device under test, or name the right one in a new question",
                      Place::Bench,
                      {},
                      {}});
  if (proof.verdict == ProofVerdict::CannotTell)
    doubts.push_back({levels.moved == Moved::Yes ? "measured_otherwise" : "not_proved",
                      DoubtRank::Stop,
                      fmt::format("That the {} moved is not proved: {}", study.variable, proof.reason),
                      levels.moved == Moved::Yes ? "Find the bottleneck, or measure again with nothing else running"
                                                 : "Make the facts readable, or accept it with the reason why you know",
                      Place::Bench,
                      {},
                      {}});
  if (proof.measured && proof.measured->agreement == Agreement::TooNoisy)
    doubts.push_back(
        {"measured_too_noisy",
         DoubtRank::Caution,
         fmt::format("The measurement cannot show that the {} moved: {}", study.variable, proof.measured->sentence()),
         "Measure again with nothing else running",
         Place::Bench,
         {},
         {}});
  if (!proof.other_neck.empty())
    doubts.push_back({"narrower_elsewhere",
                      DoubtRank::Caution,
                      fmt::format("The {} is not the narrowest hop at either level: {} is, so no effect is to be "
                                  "expected",
                                  study.variable, proof.other_neck),
                      "Use a slot nearer to the processor, or ask about that hop",
                      Place::Bench,
                      {},
                      {}});
  if (!levels.must_not.empty())
    doubts.push_back({"also_changed",
                      DoubtRank::Stop,
                      fmt::format("Between the levels also changed: {}", joined(differenceSentences(levels.must_not))),
                      "Set it right and repeat, or accept it with a reason",
                      Place::Bench,
                      {},
                      {}});
  if (study.school == School::WithHeadroom && !levels.comes_along.empty())
    doubts.push_back({"came_along",
                      DoubtRank::Caution,
                      fmt::format("With headroom only the {} is to differ, and this came along: {}", study.variable,
                                  joined(differenceSentences(levels.comes_along))),
                      "Hold it, or ask the question as delivered",
                      Place::Bench,
                      {},
                      {}});
  if (!levels.unread.empty())
    doubts.push_back(
        {"unread",
         DoubtRank::Note,
         levels.unread.size() == 1
             ? fmt::format("{} could not be read, so nobody knows that it is equal", levels.unread.front().field)
             : fmt::format("{} facts could not be read, so nobody knows that they are equal: {} and others",
                           levels.unread.size(), levels.unread.front().field),
         "Run sudo iron-lever-root-facts once in each boot: it reads what needs root",
         Place::Bench,
         {},
         {}});
}

// In a null study nothing is to move at all.
void addMovedInNull(Doubts& doubts, const BenchProof& proof) {
  if (!proof.levels || proof.levels->must_not.empty()) return;
  doubts.push_back({"also_changed",
                    DoubtRank::Stop,
                    fmt::format("In a null study nothing may change, and this did: {}",
                                joined(differenceSentences(proof.levels->must_not))),
                    "Set it right and repeat: what moved would pass for noise",
                    Place::Bench,
                    {},
                    {}});
}

void addBenchDoubts(Doubts& doubts, const Study& study, const Findings& findings, const BenchProof& proof) {
  if (findings.recorded_passes == 0) return;
  if (study.is_null)
    addMovedInNull(doubts, proof);
  else if (proof.is_captured && proof.is_declared)
    addUnproved(doubts, study, proof);
  else if (!proof.is_declared)
    doubts.push_back(
        {"kind_not_declared",
         DoubtRank::Caution,
         fmt::format("No kind of variable is declared: that the {} really moved rests on your word", study.variable),
         "Choose the kind in the question of the next study",
         Place::Question,
         {},
         {}});
  if (proof.is_virtual)
    doubts.push_back({"virtual_machine",
                      DoubtRank::Caution,
                      "The bench is a virtual machine: its links, memory and firmware are not the hardware's",
                      "Measure on the hardware itself",
                      Place::Bench,
                      {},
                      {}});
  for (const VisitProof& visit : proof.visits) {
    if (!visit.rendered_elsewhere.empty())
      doubts.push_back(
          {"other_device/visit " + std::to_string(visit.visit_id),
           DoubtRank::Stop,
           fmt::format("In visit {} the other graphics device rendered: {}", visit.planned, visit.rendered_elsewhere),
           "Make the workload use the device under test, or name the right device in the question",
           Place::Bench,
           {},
           {}});
    if (!visit.not_as_its_level.empty())
      doubts.push_back({unlikeItsLevelId(visit),
                        DoubtRank::Stop,
                        fmt::format("Visit {} was not like its level: {}", visit.planned,
                                    joined(differenceSentences(visit.not_as_its_level))),
                        "Its passes are left out until you accept it with a reason",
                        Place::Bench,
                        {},
                        {}});
    if (!visit.not_held.empty())
      doubts.push_back({"not_held/visit " + std::to_string(visit.visit_id),
                        DoubtRank::Stop,
                        fmt::format("Visit {} did not hold: between its start and its end {}", visit.planned,
                                    joined(differenceSentences(visit.not_held))),
                        "Look for what changed it, and repeat the visit",
                        Place::Bench,
                        {},
                        {}});
    if (!visit.sagged.empty())
      doubts.push_back({"sagged/visit " + std::to_string(visit.visit_id),
                        DoubtRank::Caution,
                        fmt::format("Visit {} did not hold its level under load: {}", visit.planned, visit.sagged),
                        "Look for heat, power limits and other programs, and repeat the visit",
                        Place::Bench,
                        {},
                        {}});
    if (!visit.too_much.empty())
      doubts.push_back({"too_much/visit " + std::to_string(visit.visit_id),
                        DoubtRank::Caution,
                        fmt::format("Visit {}: {}", visit.planned, visit.too_much),
                        "The measurement is wrong, or what was read is: look at both",
                        Place::Bench,
                        {},
                        {}});
    if (!visit.unmeasured.empty())
      doubts.push_back({"unmeasured/visit " + std::to_string(visit.visit_id),
                        DoubtRank::Note,
                        fmt::format("Visit {} was not measured: {}", visit.planned, visit.unmeasured),
                        "What was read stands alone",
                        Place::Bench,
                        {},
                        {}});
  }
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

std::vector<Doubt> doubtsOf(const Study& study, const Findings& findings, std::span<const Acceptance> acceptances,
                            const BenchProof& proof, std::vector<Doubt> of_passes) {
  Doubts doubts;
  for (const CaseFinding& finding : findings.cases) {
    addFailedPasses(doubts, finding);
    addNoInterval(doubts, study, finding);
    addLowsDisagree(doubts, finding);
    addTooFewFrames(doubts, finding);
  }
  addBenchDoubts(doubts, study, findings, proof);
  doubts.insert(doubts.end(), std::make_move_iterator(of_passes.begin()), std::make_move_iterator(of_passes.end()));
  addThinLows(doubts, findings);
  addDesignDoubts(doubts, study, findings);
  for (Doubt& doubt : doubts)
    for (const auto& [id, reason] : acceptances)
      if (id == doubt.id) doubt.accepted_because = reason;
  std::stable_sort(doubts.begin(), doubts.end(), [](const Doubt& a, const Doubt& b) {
    return std::pair(a.accepted_because.has_value(), a.rank) < std::pair(b.accepted_because.has_value(), b.rank);
  });
  return doubts;
}

}  // namespace core
