// What does watching cost? The same scene is drawn with this program sampling the machine once a second, and with nobody
// watching, in rounds of a drawn order; the difference is judged as any other change.
//   watching_benchmark [ROUNDS [SECONDS]]
#include <QCoreApplication>
#include <QEventLoop>
#include <QTimer>
#include <cstdio>
#include <cstdlib>

#include <fmt/format.h>

#include "bench/local_bench.h"
#include "bench/sampler.h"
#include "core/estimate/verdict.h"
#include "core/estimate/wording.h"
#include "core/study/study.h"
#include "store/logs/json_result.h"

namespace {

constexpr int kSampleMs = 1000;

struct Watched {
  double fps = 0;
  double sample_ms = 0;  ///< median cost of one sample
};

Watched drawScene(bench::LocalBench& bench, bool is_watched, double seconds) {
  const std::string length = fmt::format("{:g}", seconds);
  const auto command = bench.start({{{}, {"iron-lever-probe", "scene", "--seconds", length}}, ".", 10 * seconds});
  bench::Sampler sampler(bench);
  QTimer timer;
  double at_s = 0;
  QObject::connect(&timer, &QTimer::timeout, [&] { sampler.take(++at_s); });
  if (is_watched) timer.start(kSampleMs);
  Watched watched;
  QEventLoop loop;
  QObject::connect(command.get(), &bench::RunningCommand::finished, &loop, [&](const bench::CommandOutcome& outcome) {
    watched.fps = store::numberFromJson(outcome.output, "average_fps").ok()
                      ? *store::numberFromJson(outcome.output, "average_fps")
                      : 0;
    loop.quit();
  });
  loop.exec();
  if (const auto costs = core::summarize(sampler.samples()); is_watched && !costs.empty())
    watched.sample_ms = costs.back().median;
  return watched;
}

}  // namespace

int main(int argc, char** argv) {
  QCoreApplication application(argc, argv);
  const int rounds = argc > 1 ? std::atoi(argv[1]) : 20;
  const double seconds = argc > 2 ? std::atof(argv[2]) : 5;
  bench::LocalBench bench;
  std::vector<core::VisitValues> visits;
  double sample_ms = 0;
  (void)drawScene(bench, false, seconds);  // a warm-up
  int round = 0;
  for (const core::RoundOrder& order : core::drawRounds(2, rounds, 1)) {
    const core::ConfigurationId first = order.front();
    ++round;
    for (const bool is_watched : {first == core::ConfigurationId::Changed, first == core::ConfigurationId::Baseline}) {
      const Watched one = drawScene(bench, is_watched, seconds);
      if (one.fps <= 0) {
        std::fputs("the scene could not be drawn\n", stderr);
        return 1;
      }
      visits.push_back({is_watched ? core::ConfigurationId::Changed : core::ConfigurationId::Baseline, static_cast<int>(visits.size()) + 1,
                        round, {one.fps}});
      if (is_watched) sample_ms = one.sample_ms;
    }
  }
  const auto effect = core::effectOf(visits, 0.95);
  if (!effect) {
    std::fputs((effect.error().sentence() + "\n").c_str(), stderr);
    return 1;
  }
  const core::PercentChange change = core::percentChangeOf(effect->contrast);
  fmt::print("{} rounds of {:g} s: watching changes average FPS by {} — {}. A sample takes {:.2f} ms.\n", rounds, seconds,
             core::changeText(change), core::verdictName(core::verdictOf(change.interval, core::noticeThreshold(0.5))), sample_ms);
  return 0;
}
