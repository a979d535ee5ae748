#include "session/study/planning_basis.h"

#include <algorithm>
#include <cmath>

#include "core/findings/thresholds.h"

namespace session {
namespace {

bool isAsked(const core::Study& study, const core::CaseNoise& noise) {
  for (std::size_t i = 0; i < study.cases.size(); ++i)
    if (core::isNoiseOf(noise, study.cases[i]) &&
        (!noise.key || noise.key->measured == core::noiseKeyOf(study, i).measured))
      return true;
  return false;
}

// Of another flip, or nobody knows of which, a null study tells of the passes alone.
core::CaseNoise withoutForeignFlips(const core::Study& study, core::CaseNoise noise) {
  for (std::size_t i = 0; i < study.cases.size(); ++i)
    if (core::isOfTheSameFlip(noise, study, i)) return noise;
  noise.noise.visits = 1;
  return noise;
}

// A null study before a pilot; among equals the noisiest.
bool weighsMore(const core::CaseNoise& one, const std::optional<store::BenchRegister::Noise>& than) {
  if (!than) return true;
  if (one.isPilot() != than->measured.isPilot()) return !one.isPilot();
  if (one.isPilot()) return *one.noise.pass_sd > *than->measured.noise.pass_sd;
  return one.noise.visit_sd > than->measured.noise.visit_sd;
}

// A threshold in time counts in a plan as soon as somebody knows how long a frame lasts.
void takeFrameTimes(core::PlanningOrder& planning, const core::Study& study, const core::CaseNoise& noise) {
  if (!study.notice_threshold_ms || planning.aim.unit) return;
  double sum = 0;
  int values = 0;
  for (const std::vector<double>& visit : noise.visits)
    for (const double value : visit) sum += std::log(value), ++values;
  for (const core::Case& one : study.cases) {
    if (values == 0 || !core::isNoiseOf(noise, one)) continue;
    const auto threshold = core::thresholdAt(study, one.metric, std::exp(sum / values));
    if (threshold.decides != core::ThresholdDecides::NothingCanBeNoticed)
      planning.aim.threshold_percent = threshold.gain_percent;
    return;
  }
}

}  // namespace

PlanningBasis planningBasis(const core::Study& study, const store::BenchRegister& benches,
                            const std::string& registered_name) {
  PlanningBasis basis;
  basis.planning = core::planningOf(study);
  const auto known = benches.noise(registered_name);
  if (!known || basis.planning.aim.unit) return basis;  // what is known of a bench is in percent
  for (store::BenchRegister::Noise one : *known) {
    one.measured = withoutForeignFlips(study, std::move(one.measured));
    if (one.measured.noise.pass_sd && isAsked(study, one.measured) && weighsMore(one.measured, basis.measured))
      basis.measured = one;
  }
  if (!basis.measured) return basis;
  const core::NullStudy& noise = basis.measured->measured.noise;
  core::NoiseFloor& floor = basis.planning.noise;
  floor.pass_sd = *noise.pass_sd;
  floor.spread_df = noise.pass_df;
  takeFrameTimes(basis.planning, study, basis.measured->measured);
  if (basis.measured->measured.isPilot()) return basis;
  floor.flip_sd = noise.flip_sd;
  floor.null = core::NoiseFloor::Null{noise.visits, noise.same_passes_everywhere, noise.flip_df};
  floor.spread_df = noise.visitDf();
  return basis;
}

core::CandidatePlan currentPlan(const core::Plan& plan, const core::PlanningOrder& planning) {
  const int passes =
      plan.order == core::Order::ThereAndBack ? std::max(1, plan.passes_per_level / 2) : plan.passes_per_visit;
  const int size = plan.order == core::Order::Blocked ? plan.passes_per_level : plan.rounds;
  return core::candidateOf(plan.order, size, passes, planning);
}

}  // namespace session
