#include "core/findings/derived_studies.h"

#include "core/study/schedule.h"

namespace core {

Study startedAnew(Study study, int seed) {
  study.plan.seed = seed;
  study.plan.drawn = drawRounds(study.plan.rounds, seed);
  study.plan.extension_rounds = 0;  // that was the other study's one extension
  return study;
}

Study confirmationOf(const Study& study, const Findings& findings, std::size_t case_index) {
  constexpr int kRounds = 5;
  Study again = study;
  again.cases = {study.cases[case_index]};
  if (const auto calm = leastSurprising(findings, case_index)) again.cases.push_back(study.cases[*calm]);
  again.plan.looks.clear();
  again.plan.extension_rounds = 0;
  again.plan.is_sealed = true;
  if (study.plan.is_one_way) return again;
  again.plan.passes_per_visit = visitsOf(study.plan).front().passes;
  again.plan.order = Order::BalancedShuffle;
  again.plan.rounds = kRounds;
  again.plan.drawn.clear();
  return again;
}

Study nullStudyOf(const Study& study, int visits) {
  constexpr int kUsual = 8;
  constexpr int kFewest = 6;
  Study null_study = study;
  null_study.is_null = true;
  null_study.levels[1] = study.levels[0];
  null_study.levels[1].name += ", again";
  null_study.plan.passes_per_visit = visitsOf(study.plan).front().passes;
  null_study.plan.order = Order::BalancedShuffle;
  null_study.plan.is_one_way = false;
  null_study.plan.rounds = (visits < kFewest ? kUsual : visits + 1) / 2;
  null_study.plan.looks.clear();
  null_study.plan.drawn.clear();
  return null_study;
}

}  // namespace core
