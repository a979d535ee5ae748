#pragma once

#include <QString>
#include <optional>
#include <vector>

#include "app/model/study_model.h"
#include "core/planning/candidate_plans.h"

namespace app {

/// What the planning chart shows of the open study: what each hour at the bench buys, order by order. Plain values;
/// made anew whenever the question changes, or what is known of the bench's noise.
struct PlanningView {
  core::Study study;             ///< that it is of
  core::PlanningOrder planning;  ///< what it rests on
  struct Curve {
    core::Order order = core::Order::BalancedShuffle;
    std::vector<core::CandidatePlan> plans;  ///< by growing time
    std::vector<double> of_each = {};        ///< what they detect in each case of a suite; empty where it is not drawn
  };
  std::vector<Curve> curves;
  double threshold = 2;  ///< what matters, in `unit`
  QString unit;          ///< "%", or of results that are differences theirs
  double most_minutes = 60;
  core::CandidatePlan current;                  ///< the plan as it stands
  std::optional<core::CandidatePlan> proposed;  ///< the cheapest sufficient one, where there is one
  bool is_pass_spread_measured = false;         ///< by a null study or a pilot; else it is guessed
  bool is_flip_spread_measured = false;         ///< by a null study
  QString noise;                                ///< what the spreads rest on
  QString current_cost;                         ///< what the plan costs, in a few words
  QString current_text;                         ///< what the plan costs and buys, in one sentence
  QString current_end;                          ///< when it would end, begun now; empty once it is begun
  QString current_chances;                      ///< of its three verdicts, in one sentence
  QStringList groupings;                        ///< what grouping by each of two crossed variables would save and cost
  QString look_price;                           ///< what the planned looks cost; empty where none is planned
  QString spread_offer;                         ///< what sharing the spread saves; may be empty
  QStringList preparations;                     ///< what a person sees to before the first pass
  QString proposed_text;                        ///< the same of the proposed one, or why there is none
};

/// The spreads come from null studies of this bench where there are any (the noisiest of the study's cases), else from
/// the study's guess. Takes a few hundredths of a second, unless it rests on the same as `known`: then only the time of
/// day is looked at anew.
[[nodiscard]] PlanningView planningView(const StudyModel& study, std::optional<PlanningView> known = {});

/// The plan that sees the smallest change of the open study within that time; nothing where none is so short.
[[nodiscard]] std::optional<core::CandidatePlan> planWithin(const StudyModel& study, double minutes);

}  // namespace app
