// Makes a study file of many cases and passes for timing what opens one: large_study FILE CASES PASSES_PER_CASE
// [FRAMES]
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <random>

#include "core/frames/frame_metrics.h"
#include "core/study/schedule.h"
#include "store/study/study_file.h"
#include "support/studies.h"

namespace {

// Two passes a visit, and more where a plan would have too many rounds.
core::Study studyOf(int cases, int passes, bool has_frames) {
  constexpr int kMostRounds = 500;
  const int rounds = std::clamp(passes / 4, 3, kMostRounds);
  core::Study study = support::studyOf({"workload", "{log}"});
  if (!has_frames) {
    study.cases.front().source = core::ResultSource::JsonField;
    study.cases.front().field = "fps";
  }
  study.cases.resize(static_cast<std::size_t>(cases), study.cases.front());
  for (int i = 0; i < cases; ++i) study.cases[static_cast<std::size_t>(i)].preset = std::to_string(i);
  study.plan.order = core::Order::BalancedShuffle;
  study.plan.rounds = rounds;
  study.plan.passes_per_visit = std::max(2, passes / (2 * rounds));
  study.plan.warm_ups = 0;
  study.plan.drawn = core::drawRounds(2, rounds, 1);
  return study;
}

}  // namespace

int main(int argc, char** argv) {
  if (argc < 4) return std::fputs("large_study FILE CASES PASSES_PER_CASE [FRAMES]\n", stderr), 2;
  const int frames = argc > 4 ? std::atoi(argv[4]) : 0;
  const core::Study study = studyOf(std::atoi(argv[2]), std::atoi(argv[3]), frames > 0);
  auto file = store::StudyFile::create(argv[1], study);
  if (!file) return std::fprintf(stderr, "%s\n", file.error().sentence().c_str()), 1;
  std::mt19937_64 engine(1);
  std::normal_distribution<double> normal;
  std::int64_t visit_id = 0;
  int visit = 0;
  std::int64_t now_ms = 1'773'500'000'000;
  const auto schedule = core::scheduleOf(study);
  for (std::size_t slot = 0; slot < schedule.size(); ++slot) {
    if (schedule[slot].visit != visit) {
      visit = schedule[slot].visit;
      visit_id = file->addVisit({0, visit, schedule[slot].round, schedule[slot].configuration, "boot", now_ms})->id;
    }
    core::Pass pass;
    pass.visit_id = visit_id;
    pass.slot = slot;
    pass.started_ms = now_ms += 61'000;
    pass.duration_s = 60;
    const double mean_ms = 16 * std::exp(0.01 * normal(engine));
    std::vector<double> frame_ms(static_cast<std::size_t>(frames));
    for (double& one : frame_ms) one = mean_ms * std::exp(0.05 * normal(engine));
    pass.value = frames > 0 ? core::frameMetrics(frame_ms, {})->average_fps : 1000 / mean_ms;
    if (auto filed = file->addPass(pass, frame_ms); !filed)
      return std::fprintf(stderr, "%s\n", filed.error().sentence().c_str()), 1;
  }
  return 0;
}
