#include "app/model/planning_model.h"

#include <QCoreApplication>
#include <QDateTime>
#include <algorithm>

#include "core/percent.h"
#include "core/schedule.h"

namespace app {
namespace {

QString tr(const char* text) { return QCoreApplication::translate("PlanningModel", text); }

struct KnownNoise {
  core::NoiseFloor floor;
  QString words;
};

KnownNoise guessed(const core::PlanningGuess& guess) {
  KnownNoise known;
  known.floor.pass_sd = core::lnOfPercent(guess.pass_spread_percent);
  known.floor.flip_sd = core::lnOfPercent(guess.flip_spread_percent);
  known.words = tr("Spreads are guessed: a null study of this bench would measure them.");
  return known;
}

// The noisiest case decides: what is enough for it is enough for the others.
KnownNoise noiseOf(const StudyModel& model) {
  const core::Study& study = model.study();
  KnownNoise known = guessed(study.plan.guess);
  const auto measured = model.benches().noise(model.session().registeredName());
  if (!measured) return known;
  double worst = -1;
  for (const store::BenchRegister::Noise& one : *measured) {
    const bool is_asked = std::any_of(study.cases.begin(), study.cases.end(), [&](const core::Case& a_case) {
      return a_case.title() == one.measured.title;
    });
    const core::NullStudy& noise = one.measured.noise;
    if (!is_asked || !noise.pass_sd || noise.visit_sd <= worst) continue;
    worst = noise.visit_sd;
    known.floor = {*noise.pass_sd, noise.flip_sd,
                   core::NoiseFloor::Null{noise.visits, noise.same_passes_everywhere, noise.flip_df}};
    known.words = tr("Spreads from the null study of %1 (%2): %3 % from pass to pass, %4 % from flips%5.")
                      .arg(QDateTime::fromMSecsSinceEpoch(one.at_ms).toString(QStringLiteral("yyyy-MM-dd")),
                           toQt(one.measured.title))
                      .arg(100 * *noise.pass_sd, 0, 'f', 2)
                      .arg(100 * noise.flip_sd, 0, 'f', 2)
                      .arg(noise.isUsable() ? QString() : tr("; it has fewer than six visits"));
  }
  return known;
}

core::CandidatePlan currentPlan(const core::Plan& plan, const core::PlanningOrder& planning) {
  const int passes = plan.order == core::Order::ThereAndBack ? std::max(1, plan.passes_per_level / 2)
                                                             : plan.passes_per_visit;
  const int size = plan.order == core::Order::Blocked ? plan.passes_per_level : plan.rounds;
  return core::candidateOf(plan.order, size, passes, planning);
}

}  // namespace

PlanningView planningView(const StudyModel& model) {
  const core::Study& study = model.study();
  const KnownNoise known = noiseOf(model);
  const core::PlanningGuess& guess = study.plan.guess;
  const core::PlanningOrder planning{known.floor,
                                     {study.notice_threshold_percent, study.confidence, 0.9},
                                     {guess.flip_minutes, 0, guess.visit_pass_minutes, 0},
                                     study.plan.warm_ups};
  PlanningView view;
  view.threshold_percent = study.notice_threshold_percent;
  view.noise = known.words;
  view.is_noise_measured = known.floor.null.has_value();
  view.current = currentPlan(study.plan, planning);
  view.current_text = toQt(core::reasonFor(view.current, planning));
  if (study.notice_threshold_percent > 0) view.proposed = core::cheapestPlan(planning);
  view.proposed_text = view.proposed ? toQt(core::reasonFor(*view.proposed, planning))
                                     : tr("No plan of up to 500 rounds sees so small a change.");
  view.most_minutes = 1.6 * std::max(view.current.minutes, view.proposed ? view.proposed->minutes : 0);
  for (const core::Order order :
       {core::Order::Blocked, core::Order::ThereAndBack, core::Order::BalancedShuffle})
    view.curves.push_back({order, core::candidatesOf(order, study.plan.passes_per_visit, planning, view.most_minutes)});
  return view;
}

}  // namespace app
