// How long the core takes for what a person waits for: planning while a value is dragged, and judging a large study.
#include <benchmark/benchmark.h>

#include <cmath>
#include <random>

#include "core/judgement/judgement.h"
#include "core/planning/candidate_plans.h"
#include "core/study/schedule.h"

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

core::Study studyOf(int cases, const core::Plan& plan) {
  core::Study study;
  study.bench = "Dome node 3";
  study.variable().name = "memory speed";
  study.variable().levels[0].name = "4800 MT/s";
  study.variable().levels[1].name = "6000 MT/s";
  for (int i = 0; i < cases; ++i) {
    core::Case a_case;
    a_case.workload = "Ring pass";
    a_case.preset = std::to_string(i);
    a_case.command = {"workload", "{log}"};
    study.cases.push_back(a_case);
  }
  study.plan = plan;
  study.plan.warm_ups = 0;
  return study;
}

core::Plan tenRounds() {
  core::Plan plan;
  plan.order = core::Order::BalancedShuffle;
  plan.rounds = 10;
  plan.passes_per_visit = 2;
  plan.drawn = core::drawRounds(2, plan.rounds, 1);
  return plan;
}

// The order whose permutations are most: passes of one visit at each level.
core::Plan twentyAndTwenty() {
  core::Plan plan;
  plan.order = core::Order::Blocked;
  plan.passes_per_level = 20;
  return plan;
}

// 200 cases, 40 passes each.
struct LargeStudy {
  core::Study study;
  std::vector<core::Visit> visits;
  std::vector<core::Pass> passes;

  explicit LargeStudy(const core::Plan& plan) : LargeStudy(studyOf(200, plan)) {}
  explicit LargeStudy(core::Study asked) : study(std::move(asked)) {
    const auto schedule = core::scheduleOf(study);
    std::mt19937_64 engine(1);
    std::normal_distribution<double> normal;
    for (std::size_t i = 0; i < schedule.size(); ++i) {
      if (visits.empty() || visits.back().planned != schedule[i].visit)
        visits.push_back({static_cast<std::int64_t>(visits.size()) + 1, schedule[i].visit, schedule[i].round,
                          schedule[i].configuration, "boot", 0});
      core::Pass pass;
      pass.slot = i;
      pass.visit_id = visits.back().id;
      pass.value = 60 * std::exp(0.01 * normal(engine));
      passes.push_back(pass);
    }
  }
  [[nodiscard]] core::Judgement judged() const {
    core::Record record;
    record.visits = visits;
    record.passes = passes;
    return core::judgementOf(study, record);
  }
};

// As when the study is opened.
void judgeLargeStudy(benchmark::State& state, const core::Plan& plan) {
  LargeStudy large(plan);
  for (auto unused : state) {
    state.PauseTiming();
    for (core::Pass& pass : large.passes) *pass.value *= 1.0001;  // nothing was worked out before
    state.ResumeTiming();
    benchmark::DoNotOptimize(large.judged());
  }
}
BENCHMARK_CAPTURE(judgeLargeStudy, rounds, tenRounds())->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(judgeLargeStudy, passes, twentyAndTwenty())->Unit(benchmark::kMillisecond);

// The same, each case with two results beside its headline.
void judgeThreeResults(benchmark::State& state, const core::Plan& plan) {
  core::Study study = studyOf(200, plan);
  for (core::Case& one : study.cases)
    for (const char* name : {"sky", "dome"}) {
      core::CaseResult& further = one.further.emplace_back();
      further.name = name;
      further.source = core::ResultSource::JsonField;
      further.metric = {name, "points"};
    }
  LargeStudy large(study);
  for (core::Pass& pass : large.passes) pass.further = {{2 * *pass.value, ""}, {3 * *pass.value, ""}};
  for (auto unused : state) {
    state.PauseTiming();
    for (core::Pass& pass : large.passes) *pass.value *= 1.0001;
    state.ResumeTiming();
    benchmark::DoNotOptimize(large.judged());
  }
}
BENCHMARK_CAPTURE(judgeThreeResults, rounds, tenRounds())->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(judgeThreeResults, passes, twentyAndTwenty())->Unit(benchmark::kMillisecond);

// A ladder of 12 levels with 60 cases, 10 passes each: five rounds of two, the spread shared by all of them.
void judgeLadderOfTwelve(benchmark::State& state) {
  core::Study study = studyOf(60, tenRounds());
  study.shape = core::Shape::Ladder;
  study.variable().levels.clear();
  for (int i = 1; i <= 12; ++i) {
    core::Level level;
    level.name = "level " + std::to_string(i);
    level.resource = i;
    study.variable().levels.push_back(level);
  }
  study.plan.rounds = 5;
  study.plan.drawn = core::drawRounds(12, 5, 1);
  study.plan.spread = core::Spread::Shared;
  LargeStudy large(study);
  for (auto unused : state) {
    state.PauseTiming();
    for (core::Pass& pass : large.passes) *pass.value *= 1.0001;
    state.ResumeTiming();
    benchmark::DoNotOptimize(large.judged());
  }
}
BENCHMARK(judgeLadderOfTwelve)->Unit(benchmark::kMillisecond);

// The same after a person has moved the threshold, and left out a pass or put it back.
void judgeLargeStudyAgain(benchmark::State& state, const core::Plan& plan) {
  LargeStudy large(plan);
  benchmark::DoNotOptimize(large.judged());
  int times = 0;
  for (auto unused : state) {
    large.study.notice_threshold_percent = 1 + 0.01 * (times % 100);
    large.passes[0].excluded_because = ++times % 2 == 0 ? "heat" : "";
    benchmark::DoNotOptimize(large.judged());
  }
}
BENCHMARK_CAPTURE(judgeLargeStudyAgain, rounds, tenRounds())->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(judgeLargeStudyAgain, passes, twentyAndTwenty())->Unit(benchmark::kMillisecond);

}  // namespace

BENCHMARK_MAIN();
