#include "session/practice/practice_score.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <random>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/judgement/judgement.h"
#include "core/planning/candidate_plans.h"
#include "session/cabinet/read_study.h"

namespace session {
namespace {

using core::ConfigurationId;
using nlohmann::json;

constexpr double kPercent = 100;
constexpr double kMinute_s = 60;

/// What the truth says of one case's noise, ln scale.
struct BenchNoise {
  double pass_sd = 0;
  double visit_sd = 0;
  double heat = 0;
  double heat_minutes = 1;
  double pass_minutes = 0;  ///< of all cases together
};

double numberIn(const json& object, const char* name, double otherwise) {
  const auto found = object.find(name);
  return found != object.end() && found->is_number() ? found->get<double>() : otherwise;
}

// Frames average out: their noise reaches a pass by as much as they are alike.
double passSdOf(const json& a_case) {
  const double seconds = numberIn(a_case, "seconds", 60);
  double frame_ms = 0;
  for (const char* part : {"processor_ms", "graphics_ms", "memory_ms", "link_ms"})
    frame_ms = std::max(frame_ms, numberIn(a_case, part, 0));
  const double rho = std::clamp(numberIn(a_case, "frame_rho", 0.8), 0.0, 0.999);
  const double frames = frame_ms > 0 ? std::max(1.0, 1000 * seconds / frame_ms) : 1;
  const double of_frames = numberIn(a_case, "frame_sd", 0.04) * std::sqrt((1 + rho) / (1 - rho) / frames);
  return std::hypot(numberIn(a_case, "pass_sd", 0.004), of_frames);
}

BenchNoise noiseOf(const json& truth, const core::Case& asked) {
  BenchNoise noise;
  noise.visit_sd = numberIn(truth, "visit_sd", 0);
  noise.heat = numberIn(truth, "heat_percent", 0) / kPercent;
  noise.heat_minutes = numberIn(truth, "heat_minutes", 20);
  const std::string name = asked.workload + "@" + asked.preset;
  const json cases = truth.value("cases", json::object());  // kept while its items are read
  for (const auto& [title, one] : cases.items()) {
    noise.pass_minutes += numberIn(one, "seconds", 60) / kMinute_s;
    if (title == name || noise.pass_sd == 0) noise.pass_sd = passSdOf(one);
  }
  return noise;
}

/// A study with what it says of the levels that the claim is about.
struct Judged {
  ReadStudy read;
  core::Record record;
  core::Judgement judgement;
  std::size_t case_index = 0;
  bool is_suite = false;
};

core::PairOf pairAsked(const Exercise& exercise, const core::Study& study) {
  core::PairOf pair = {study.baseline(), core::configurationAt(study.configurationCount() - 1)};
  for (const ConfigurationId one : core::configurationsOf(study)) {
    if (study.nameOf(one) == exercise.from) pair.from = one;
    if (study.nameOf(one) == exercise.to) pair.to = one;
  }
  return pair;
}

core::Result<Judged> judged(const OpenedPractice& opened) {
  auto read = readStudy(opened.about.study);
  if (!read) return read.error();
  Judged all;
  all.read = *std::move(read);
  all.record = store::recordOf(all.read.recorded);
  const core::Study& study = all.read.study;
  all.judgement =
      core::judgementOf(study, all.record, core::proveSteps(study, all.record), pairAsked(opened.exercise, study));
  for (std::size_t i = 0; i < study.cases.size(); ++i)
    if (study.cases[i].title() == opened.exercise.case_title) all.case_index = i;
  all.is_suite = opened.exercise.case_title.empty() && study.cases.size() > 1;
  return all;
}

// Of the suite, or of the case that the claim is about; null without a result.
const core::PercentChange* changeAsked(const Judged& all, const core::Findings& found) {
  if (all.is_suite) return found.suite ? &found.suite->improvement : nullptr;
  const bool has_effect = all.case_index < found.cases.size() && found.cases[all.case_index].effect;
  return has_effect ? &found.cases[all.case_index].improvement : nullptr;
}

std::optional<ProgramClaim> programClaim(const Judged& all) {
  if (all.judgement.is_sealed) return std::nullopt;
  const core::PercentChange* change = changeAsked(all, all.judgement.findings);
  if (!change || !change->interval) return std::nullopt;
  return ProgramClaim{change->value, change->interval->lo, change->interval->hi, all.judgement.claim.sentence()};
}

/// The visits that the claim's numbers come from, in the order in which they were made.
struct CountedVisit {
  bool is_changed = false;
  int passes = 0;      ///< that count
  int all_passes = 0;  ///< of every case, also those that do not
};

std::vector<CountedVisit> countedVisits(const Judged& all) {
  const auto& findings = all.judgement.findings;
  std::map<std::int64_t, CountedVisit> visits;
  std::map<std::int64_t, ConfigurationId> at;
  for (const core::Visit& visit : all.record.visits) at[visit.id] = visit.configuration;
  const core::PairOf pair = all.judgement.pair;
  const auto schedule = core::scheduleOf(all.read.study);
  for (const core::Pass& pass : all.record.passes) {
    CountedVisit& visit = visits[pass.visit_id];
    ++visit.all_passes;
    visit.is_changed = at[pass.visit_id] == pair.to;
    const bool is_of_pair = at[pass.visit_id] == pair.to || at[pass.visit_id] == pair.from;
    const bool is_asked = pass.slot < schedule.size() && schedule[pass.slot].case_index == all.case_index;
    if (is_of_pair && is_asked && findings.counted.contains(pass.id)) ++visit.passes;
  }
  std::vector<CountedVisit> in_order;
  for (const auto& [id, visit] : visits) in_order.push_back(visit);
  return in_order;
}

// By how much the estimate of such a plan misses in one try, ln scale; nothing where a level has no pass. Each
// visit weighs alike.
std::optional<double> missOf(const std::vector<CountedVisit>& visits, const BenchNoise& noise, double cases,
                             std::mt19937_64& engine) {
  std::normal_distribution<double> normal;
  std::array<double, 2> sums{};
  std::array<int, 2> counts{};
  double warm = 0;
  for (const CountedVisit& visit : visits) {
    constexpr double kKeptByARestart = 0.6;
    warm *= kKeptByARestart;
    const double of_visit = noise.visit_sd * normal(engine);
    const double minutes = noise.pass_minutes / cases;
    const double before = warm;
    warm += minutes * visit.all_passes;
    if (visit.passes == 0) continue;
    const double middle = (before + warm) / 2;
    const double of_heat = noise.heat * (1 - std::exp(-middle / noise.heat_minutes));
    const double of_passes = noise.pass_sd / std::sqrt(visit.passes) * normal(engine);
    const std::size_t level = visit.is_changed ? 1 : 0;
    sums[level] -= of_visit + of_heat + of_passes;  // what takes longer has a lower rate
    ++counts[level];
  }
  if (counts[0] == 0 || counts[1] == 0) return std::nullopt;
  return sums[1] / counts[1] - sums[0] / counts[0];
}

int rightOf100(const Judged& all, const BenchNoise& noise, const PracticeClaim& claim, double suite_share) {
  constexpr int kTries = 4000;
  const auto visits = countedVisits(all);
  const double below = std::log1p(claim.percent / kPercent) - std::log1p(claim.lo / kPercent);
  const double above = std::log1p(claim.hi / kPercent) - std::log1p(claim.percent / kPercent);
  std::mt19937_64 engine(20261202);
  BenchNoise shared = noise;
  shared.pass_sd *= suite_share;
  int right = 0;
  for (int i = 0; i < kTries; ++i) {
    const auto miss = missOf(visits, shared, static_cast<double>(all.read.study.cases.size()), engine);
    if (!miss) return 0;
    right += *miss <= below && -*miss <= above ? 1 : 0;
  }
  return static_cast<int>(std::lround(kPercent * right / kTries));
}

double hoursAtBench(const store::Recorded& record, double cases, const BenchNoise& noise) {
  if (record.passes.empty() || record.visits.empty()) return 0;
  constexpr double kHour_ms = 3.6e6;
  const double last_pass_h = noise.pass_minutes / kMinute_s / cases;
  constexpr double kFirstFlip_h = 3.5 / 60;
  return static_cast<double>(record.passes.back().started_ms - record.visits.front().started_ms) / kHour_ms +
         last_pass_h + kFirstFlip_h;
}

double cheapestHours(const Judged& all, const BenchNoise& noise, double suite_share) {
  core::PlanningOrder planning = core::planningOf(all.read.study);
  planning.noise.pass_sd = noise.pass_sd * suite_share;
  planning.noise.flip_sd = noise.visit_sd;
  planning.noise.spread_df = 0;
  planning.suite_cases = 1;
  constexpr double kFlipMinutes = 3.5;
  planning.times = {kFlipMinutes, 0, noise.pass_minutes, 0};
  planning.flip_minutes.clear();
  planning.warm_ups = 0;
  const auto cheapest = core::cheapestPlan(planning);
  return cheapest ? cheapest->minutes / kMinute_s : 0;
}

// What of the claim's own interval a recommendation needs: to use it, a gain for sure; to keep what is there, that it
// brings less than matters.
bool followsFromInterval(const PracticeClaim& claim, double threshold) {
  switch (claim.recommend) {
    case Recommendation::Use: return claim.lo > 0;
    case Recommendation::Keep: return claim.hi < threshold;
    case Recommendation::CannotSay: return claim.lo <= 0 || claim.hi >= threshold;
  }
  return false;
}

bool fitsTheTruth(Recommendation recommend, double truth, double threshold) {
  if (recommend == Recommendation::CannotSay) return true;
  return (recommend == Recommendation::Use) == (truth >= threshold);
}

PracticePoints soundOf(const PracticeOutcome& outcome) {
  constexpr int kAll = 100;
  constexpr int kPromised = 95;
  if (!outcome.holds) return {0, fmt::format("The truth, {:+.2f} %, lies outside the claim.", outcome.truth_percent)};
  int points = std::min(kAll, kAll * outcome.right_of_100 / kPromised);
  std::string why = fmt::format("The truth, {:+.2f} %, lies in the claim; of 100 such tries it would have in {}.",
                                outcome.truth_percent, outcome.right_of_100);
  if (outcome.is_by_chance) {
    points = 0;
    why += " Right by chance: there are no points for luck.";
  } else if (!outcome.is_fitting) {
    points /= 2;
    why += " The recommendation does not follow from it.";
  }
  return {points, why};
}

PracticePoints aloneOf(const Judged& all) {
  PracticePoints alone{100, ""};
  const auto take = [&](int points, const std::string& why) {
    alone.points = std::max(0, alone.points - points);
    alone.why += (alone.why.empty() ? "" : " ") + why;
  };
  for (const core::Doubt& doubt : all.judgement.doubts)
    if (doubt.rank == core::DoubtRank::Stop)
      take(doubt.accepted_because ? 50 : 100,
           (doubt.accepted_because ? "A stop was accepted: " : "A stop stands: ") + doubt.sentence + ".");
    else if (doubt.rank == core::DoubtRank::Caution && doubt.place == core::Place::Bench && !doubt.accepted_because)
      take(25, "A caution about the bench stands: " + doubt.sentence + ".");
  for (const store::Event& event : all.read.recorded.events) {
    if (std::holds_alternative<core::MeasuredAnyway>(event.act))
      take(100, "A level that the bench contradicted was measured all the same.");
    if (std::holds_alternative<core::OpenedEarly>(event.act))
      take(50, "The results were opened before the plan was complete.");
    if (std::holds_alternative<core::PassExcluded>(event.act)) take(10, "A pass was left out by hand.");
  }
  if (alone.why.empty()) alone.why = "Nothing but the variable moved, and nothing was looked at too early.";
  return alone;
}

PracticePoints thriftyOf(const PracticeOutcome& outcome) {
  constexpr int kAll = 100;
  if (outcome.hours <= 0) return {0, "Nothing was measured."};
  if (outcome.cheapest_hours <= 0)
    return {kAll, "No plan of up to 500 rounds would have told what matters on this bench."};
  const int points = std::min(kAll, static_cast<int>(std::lround(kAll * outcome.cheapest_hours / outcome.hours)));
  return {points,
          fmt::format("{} at the bench; the cheapest plan that would have sufficed takes {}.",
                      core::durationText(3600 * outcome.hours), core::durationText(3600 * outcome.cheapest_hours))};
}

std::vector<std::string> decisionsOf(const PracticeOutcome& outcome, const Judged& all) {
  std::vector<std::string> said;
  const auto visits = static_cast<int>(all.record.visits.size());
  said.push_back(fmt::format("The plan: {}, {} of {}, {} at the bench.", core::orderName(all.read.study.plan.order),
                             core::countText(static_cast<int>(all.record.passes.size()), "pass", "passes"),
                             core::countText(visits, "visit", "visits"), core::durationText(3600 * outcome.hours)));
  said.push_back(fmt::format("The claim, {:.1f} % wide: of 100 such plans on this bench it would have held in {}.",
                             outcome.claim.hi - outcome.claim.lo, outcome.right_of_100));
  if (outcome.cheapest_hours > 0 && outcome.hours < outcome.cheapest_hours)
    said.push_back("It took less time than the cheapest plan that finds what matters in 9 of 10 studies.");
  if (outcome.program && (outcome.claim.hi - outcome.claim.lo) < 0.7 * (outcome.program->hi - outcome.program->lo))
    said.push_back(fmt::format("The claim is narrower than the passes allow: {:.1f} % instead of {:.1f} %.",
                               outcome.claim.hi - outcome.claim.lo, outcome.program->hi - outcome.program->lo));
  const core::PercentChange* without = all.judgement.with_all ? changeAsked(all, all.judgement.findings) : nullptr;
  const core::PercentChange* with = without ? changeAsked(all, *all.judgement.with_all) : nullptr;
  if (with)
    said.push_back(fmt::format("What was left out by hand: with it the change would be {:+.2f} % instead of {:+.2f} %.",
                               with->value, without->value));
  return said;
}

}  // namespace

core::Result<PracticeOutcome> practiceOutcome(const std::string& folder) {
  const auto opened = openPractice(folder);
  if (!opened) return opened.error();
  const auto all = judged(*opened);
  if (!all) return all.error();
  const core::Study& study = all->read.study;
  const BenchNoise noise = noiseOf(opened->truth.truth, study.cases[all->case_index]);
  const double share = all->is_suite ? 1 / std::sqrt(static_cast<double>(study.cases.size())) : 1;
  PracticeOutcome outcome;
  outcome.truth_percent = opened->truth.percent;
  outcome.claim = opened->claim;
  outcome.program = programClaim(*all);
  outcome.holds = opened->claim.lo <= outcome.truth_percent && outcome.truth_percent <= opened->claim.hi;
  outcome.right_of_100 = rightOf100(*all, noise, opened->claim, share);
  constexpr int kMostly = 80;
  outcome.is_by_chance = outcome.holds && outcome.right_of_100 < kMostly;
  const double threshold = study.notice_threshold_percent;
  outcome.is_fitting = followsFromInterval(outcome.claim, threshold) &&
                       fitsTheTruth(outcome.claim.recommend, outcome.truth_percent, threshold);
  const auto cases = static_cast<double>(study.cases.size());
  outcome.hours = hoursAtBench(all->read.recorded, cases, noise);
  if (const auto restarts = readStudy(opened->about.restarts_first); restarts)  // they were measured for the claim too
    outcome.hours += hoursAtBench(restarts->recorded, cases, noise);
  outcome.cheapest_hours = cheapestHours(*all, noise, share);
  outcome.flips = static_cast<int>(all->record.visits.size());
  outcome.sound = soundOf(outcome);
  outcome.alone = aloneOf(*all);
  outcome.thrifty = thriftyOf(outcome);
  outcome.decisions = decisionsOf(outcome, *all);
  outcome.take_away = opened->exercise.take_away;
  return outcome;
}

}  // namespace session
