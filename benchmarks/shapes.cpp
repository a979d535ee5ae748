// The same question for ladders, crossings and chains: how often do contrasts, interactions, elasticities and shares hold
// the truth, how often is a level called enough that is not, and how often does a family of contrasts on nothing raise an
// alarm? Rounds of four configurations in balanced squares, with passes and flips that vary. Prints the second table of
// docs/method.md.
//   shapes_benchmark [STUDIES]
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <map>
#include <optional>
#include <random>
#include <string>
#include <vector>

#include <fmt/format.h>

#include "core/estimate/effect.h"
#include "core/estimate/holm.h"
#include "core/estimate/ladder.h"
#include "core/estimate/loss_chain.h"
#include "core/study/asked_contrasts.h"
#include "core/study/schedule.h"
#include "core/values/percent.h"
#include "support/studies.h"

namespace {

constexpr double kPassSd = 0.01;
constexpr double kFlipSd = 0.005;
constexpr double kThresholdPercent = 2;

using Levels = std::vector<double>;  // ln of each configuration's rate

std::vector<core::VisitValues> simulate(const core::Study& study, const Levels& truth, std::mt19937_64& random) {
  std::normal_distribution<double> normal;
  std::vector<core::VisitValues> visits;
  for (const core::PlannedVisit& one : core::visitsOf(study)) {
    const double flip = kFlipSd * normal(random);
    core::VisitValues visit{one.configuration, one.number, one.round, {}};
    for (int i = 0; i < one.passes; ++i)
      visit.values.push_back(100 * std::exp(truth[core::placeOf(one.configuration)] + flip + kPassSd * normal(random)));
    visits.push_back(std::move(visit));
  }
  return visits;
}

struct Count {
  int held = 0;
  int all = 0;
  void add(bool is_held) {
    held += is_held;
    ++all;
  }
  [[nodiscard]] std::string text() const { return all == 0 ? "" : fmt::format("{:.1f} %", 100.0 * held / all); }
};

double truthOf(const core::AskedContrast& asked, const Levels& truth) {
  double sum = 0;
  for (std::size_t i = 0; i < truth.size(); ++i) sum += asked.weights[i] * truth[i];
  return sum;
}

class Simulation {
 public:
  Simulation(core::Study study, Levels truth, int studies) : study_(std::move(study)), truth_(std::move(truth)), studies_(studies) {}

  void run(const char* name) {
    for (int i = 0; i < studies_; ++i) {
      study_.plan.drawn = core::drawRounds(4, study_.plan.rounds, i);
      const auto visits = simulate(study_, truth_, random_);
      contrasts(visits);
      const auto ln = onLnScale(visits);
      const std::vector<double> everywhere(4, 1);
      const core::Units units = core::unitsOf(ln, everywhere, core::chooseEstimator(ln, everywhere).estimator);
      if (study_.shape == core::Shape::Ladder) enough(units);
      if (study_.shape == core::Shape::Chain) shares(units);
      nothing();
    }
    fmt::print("| {} | {} | {} | {} | {} | {} |\n", name, simple_.text(), second_.text(), shares_.text(),
               too_low_.text(), alarms_.text());
    std::fflush(stdout);
  }

 private:
  static std::vector<core::VisitValues> onLnScale(std::vector<core::VisitValues> visits) {
    for (core::VisitValues& visit : visits)
      for (double& value : visit.values) value = std::log(value);
    return visits;
  }

  void contrasts(const std::vector<core::VisitValues>& visits) {
    for (const core::AskedContrast& asked : core::contrastsOf(study_)) {
      const auto effect = core::weightedEffectOf(visits, asked.weights, 0.95);
      if (!effect || !effect->contrast.inference) continue;
      const core::Inference& found = *effect->contrast.inference;
      const double truth = truthOf(asked, truth_);
      const bool is_held = found.lo <= truth && truth <= found.hi;
      if (asked.kind == core::ContrastKind::Interaction) {
        second_.add(is_held);
        continue;
      }
      simple_.add(is_held);
      if (asked.kind != core::ContrastKind::Neighbour) continue;
      const auto& levels = study_.variable().levels;
      const double from = *levels[core::placeOf(asked.pair->from)].resource;
      const double to = *levels[core::placeOf(asked.pair->to)].resource;
      const auto elasticity = core::elasticityOf(effect->contrast, core::Direction::HigherIsBetter, {"", from}, {"", to});
      const double true_elasticity = truth / std::log(to / from);
      if (elasticity) second_.add(elasticity->lo <= true_elasticity && true_elasticity <= elasticity->hi);
    }
  }

  // Below the lowest level that truly falls short by less than the threshold, as does whatever is above it.
  void enough(const core::Units& units) {
    std::vector<core::Rung> rungs;
    for (const core::Level& level : study_.variable().levels) rungs.push_back({level.name, *level.resource});
    const auto found = core::enoughPointOf(units, rungs, core::Direction::HigherIsBetter, kThresholdPercent, 0.95);
    if (!found) return;
    std::size_t truly = 3;
    while (truly > 0 && truth_[3] - truth_[truly - 1] < core::lnOfPercent(kThresholdPercent)) --truly;
    too_low_.add(found->enough && *found->enough < truly);
  }

  void shares(const core::Units& units) {
    const auto chain = core::lossChainOf(units, 0.95);
    if (!chain || !chain->is_clear_of_zero) return;
    for (std::size_t step = 0; step < 3; ++step) {
      const double truth = (truth_[step + 1] - truth_[step]) / (truth_[3] - truth_[0]);
      const auto& interval = chain->steps[step].interval;
      if (interval) shares_.add(interval->first <= truth && truth <= interval->second);
    }
  }

  // Nothing moves: does any contrast of a kind survive its family's adjustment?
  void nothing() {
    const auto visits = simulate(study_, Levels(4, 0), random_);
    std::map<core::ContrastKind, std::vector<std::optional<double>>> families;
    for (const core::AskedContrast& asked : core::contrastsOf(study_))
      if (const auto effect = core::weightedEffectOf(visits, asked.weights, 0.95); effect && effect->contrast.inference)
        families[asked.kind].push_back(effect->contrast.inference->p);
    for (const auto& [kind, p] : families) {
      const auto adjusted = core::holmAdjusted(p);
      alarms_.add(std::any_of(adjusted.begin(), adjusted.end(), [](const auto& one) { return one && *one < 0.05; }));
    }
  }

  core::Study study_;
  Levels truth_;
  int studies_;
  std::mt19937_64 random_{20261127};
  Count simple_, second_, shares_, too_low_, alarms_;
};

}  // namespace

int main(int count, char** words) {
  const int studies = count > 1 ? std::atoi(words[1]) : 4000;
  fmt::print("| shape | contrasts hold the truth | interaction, elasticity | shares | enough-point too low | "
             "family of nothing alarms |\n| --- | ---: | ---: | ---: | ---: | ---: |\n");
  for (const int rounds : {4, 8}) {
    Simulation(support::ladderOf(rounds), {0, 0.08, 0.115, 0.13}, studies)
        .run(fmt::format("ladder of 4, {} rounds of 2 passes", rounds).c_str());
    Simulation(support::ladderOf(rounds), {0, 0.08, 0.1099, 0.13}, studies)
        .run(fmt::format("ladder, third level just not enough, {} rounds", rounds).c_str());
    Simulation(support::crossedOf(rounds), {0, 0.02, 0.08, 0.14}, studies)
        .run(fmt::format("2 x 2, {} rounds of 2 passes", rounds).c_str());
    Simulation(support::chainOf(rounds), {0, -0.07, -0.24, -0.30}, studies)
        .run(fmt::format("chain of 4, {} rounds of 2 passes", rounds).c_str());
  }
}
