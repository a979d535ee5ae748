#include "core/derived_studies.h"

#include "core/schedule.h"

namespace core {

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
