#pragma once

#include <optional>
#include <string>

#include "core/planning/candidate_plans.h"
#include "store/benches/bench_register.h"

namespace session {

/// What planning a study rests on, and where its spreads come from.
struct PlanningBasis {
  core::PlanningOrder planning;
  std::optional<store::BenchRegister::Noise> measured;  ///< the null study or the pilot; absent where the guess serves
};

/// The noise of null studies of this bench where there are any: that of the noisiest of the study's cases, since what
/// is enough for it is enough for the others. Else the pass spread of pilots, with the study's guess of its flips; else
/// the guess alone. A register that cannot be read counts as empty.
[[nodiscard]] PlanningBasis planningBasis(const core::Study& study, const store::BenchRegister& benches,
                                          const std::string& registered_name);

/// A study's plan as it stands, among the candidates.
[[nodiscard]] core::CandidatePlan currentPlan(const core::Plan& plan, const core::PlanningOrder& planning);

}  // namespace session
