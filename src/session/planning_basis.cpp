#include "session/planning_basis.h"

#include <algorithm>

#include "core/percent.h"

namespace session {

PlanningBasis planningBasis(const core::Study& study, const store::BenchRegister& benches,
                            const std::string& registered_name) {
  constexpr double kPower = 0.9;
  const core::PlanningGuess& guess = study.plan.guess;
  PlanningBasis basis;
  basis.planning = {{core::lnOfPercent(guess.pass_spread_percent), core::lnOfPercent(guess.flip_spread_percent), {}},
                    {study.notice_threshold_percent, study.intervalConfidence(), kPower},
                    {guess.flip_minutes, 0, guess.visit_pass_minutes, 0},
                    study.plan.warm_ups};
  const auto known = benches.noise(registered_name);
  if (!known) return basis;
  for (const store::BenchRegister::Noise& one : *known) {
    const bool is_asked = std::any_of(study.cases.begin(), study.cases.end(),
                                      [&](const core::Case& a_case) { return a_case.title() == one.measured.title; });
    const core::NullStudy& noise = one.measured.noise;
    if (!is_asked || !noise.pass_sd) continue;
    if (basis.measured && noise.visit_sd <= basis.measured->measured.noise.visit_sd) continue;
    basis.measured = one;
    basis.planning.noise = {*noise.pass_sd, noise.flip_sd,
                            core::NoiseFloor::Null{noise.visits, noise.same_passes_everywhere, noise.flip_df}};
  }
  return basis;
}

core::CandidatePlan currentPlan(const core::Plan& plan, const core::PlanningOrder& planning) {
  const int passes =
      plan.order == core::Order::ThereAndBack ? std::max(1, plan.passes_per_level / 2) : plan.passes_per_visit;
  const int size = plan.order == core::Order::Blocked ? plan.passes_per_level : plan.rounds;
  return core::candidateOf(plan.order, size, passes, planning);
}

}  // namespace session
