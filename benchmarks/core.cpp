// How long the core takes for what a person waits for: planning while a value is dragged, and judging a large study.
#include <benchmark/benchmark.h>

#include <cmath>
#include <random>

#include "core/candidate_plans.h"
#include "core/judgement.h"
#include "core/schedule.h"

namespace {

// 60 cases differ in their spread alone: for each the smallest sufficient number of rounds.
void planSixtyCases(benchmark::State& state) {
  for (auto unused : state) {
    for (int i = 0; i < 60; ++i)
      benchmark::DoNotOptimize(
          core::smallestSize(core::PlanDesign::Rounds, 2, {0.004 + 0.0002 * i, 0.003, {}}, core::PlanAim{}));
  }
}
BENCHMARK(planSixtyCases)->Unit(benchmark::kMillisecond);

core::Study studyOf(int cases, int rounds, int passes) {
  core::Study study;
  study.bench = "Dome node 3";
  study.variable = "memory speed";
  study.levels[0].name = "4800 MT/s";
  study.levels[1].name = "6000 MT/s";
  for (int i = 0; i < cases; ++i) {
    core::Case a_case;
    a_case.workload = "Ring pass";
    a_case.preset = std::to_string(i);
    a_case.command = {"workload", "{log}"};
    study.cases.push_back(a_case);
  }
  study.plan.order = core::Order::BalancedShuffle;
  study.plan.rounds = rounds;
  study.plan.passes_per_visit = passes;
  study.plan.warm_ups = 0;
  study.plan.drawn = core::drawRounds(rounds, 1);
  return study;
}

// 200 cases, 40 passes each.
void judgeLargeStudy(benchmark::State& state) {
  const core::Study study = studyOf(200, 10, 2);
  const auto schedule = core::scheduleOf(study);
  std::mt19937_64 engine(1);
  std::normal_distribution<double> normal;
  std::vector<core::Visit> visits;
  std::vector<core::Pass> passes;
  for (std::size_t i = 0; i < schedule.size(); ++i) {
    if (visits.empty() || visits.back().planned != schedule[i].visit)
      visits.push_back({static_cast<std::int64_t>(visits.size()) + 1, schedule[i].visit, schedule[i].round,
                        schedule[i].side, "boot", 0});
    core::Pass pass;
    pass.slot = i;
    pass.visit_id = visits.back().id;
    pass.value = 60 * std::exp(0.01 * normal(engine));
    passes.push_back(pass);
  }
  core::Record record;
  record.visits = visits;
  record.passes = passes;
  for (auto unused : state) benchmark::DoNotOptimize(core::judgementOf(study, record));
}
BENCHMARK(judgeLargeStudy)->Unit(benchmark::kMillisecond);

}  // namespace

BENCHMARK_MAIN();
