#include "session/planning_basis.h"

#include <algorithm>

namespace session {
namespace {

bool isAsked(const core::Study& study, const core::CaseNoise& noise) {
  return std::any_of(study.cases.begin(), study.cases.end(),
                     [&](const core::Case& a_case) { return core::isNoiseOf(noise, a_case); });
}

// A null study before a pilot; among equals the noisiest.
bool weighsMore(const core::CaseNoise& one, const std::optional<store::BenchRegister::Noise>& than) {
  if (!than) return true;
  if (one.isPilot() != than->measured.isPilot()) return !one.isPilot();
  if (one.isPilot()) return *one.noise.pass_sd > *than->measured.noise.pass_sd;
  return one.noise.visit_sd > than->measured.noise.visit_sd;
}

}  // namespace

PlanningBasis planningBasis(const core::Study& study, const store::BenchRegister& benches,
                            const std::string& registered_name) {
  PlanningBasis basis;
  basis.planning = core::planningOf(study);
  const auto known = benches.noise(registered_name);
  if (!known) return basis;
  for (const store::BenchRegister::Noise& one : *known)
    if (one.measured.noise.pass_sd && isAsked(study, one.measured) && weighsMore(one.measured, basis.measured))
      basis.measured = one;
  if (!basis.measured) return basis;
  const core::NullStudy& noise = basis.measured->measured.noise;
  basis.planning.noise.pass_sd = *noise.pass_sd;
  if (basis.measured->measured.isPilot()) return basis;
  basis.planning.noise = {*noise.pass_sd, noise.flip_sd,
                          core::NoiseFloor::Null{noise.visits, noise.same_passes_everywhere, noise.flip_df}};
  return basis;
}

core::CandidatePlan currentPlan(const core::Plan& plan, const core::PlanningOrder& planning) {
  const int passes =
      plan.order == core::Order::ThereAndBack ? std::max(1, plan.passes_per_level / 2) : plan.passes_per_visit;
  const int size = plan.order == core::Order::Blocked ? plan.passes_per_level : plan.rounds;
  return core::candidateOf(plan.order, size, passes, planning);
}

}  // namespace session
