// What does recording cost? The spinning cube of Debian's vulkan-tools shows so many frames on a display without a monitor,
// recorded and not, in rounds of a drawn order; the difference is judged as any other change.
//   recording_benchmark [ROUNDS [FRAMES]]
#include <QCoreApplication>
#include <QEventLoop>
#include <QTemporaryDir>
#include <cstdio>
#include <cstdlib>

#include <fmt/format.h>

#include "bench/local_bench.h"
#include "core/study.h"
#include "core/verdict.h"
#include "core/wording.h"
#include "session/frame_recorder.h"
#include "support/virtual_display.h"

namespace {

// Frames a second by the clock, from the start of the program to its end; nothing where it failed.
double showCube(bench::LocalBench& bench, const std::string& display, bool is_recorded, int frames) {
  const QTemporaryDir folder;
  session::FrameRecorder recorder(folder.filePath(QStringLiteral("rings")).toStdString());
  session::FrameRecorder::Environment environment{{"DISPLAY", display}};
  if (is_recorded)
    for (const auto& variable : recorder.environment(environment)) environment.push_back(variable);
  const auto command =
      bench.start({{environment, {"vkcube", "--present_mode", "0", "--c", std::to_string(frames)}, {}}, ".", 600});
  double fps = 0;
  QEventLoop loop;
  QObject::connect(command.get(), &bench::RunningCommand::finished, &loop, [&](const bench::CommandOutcome& outcome) {
    if (outcome.ending == bench::Ending::Exited && outcome.exit_code == 0) fps = frames / outcome.duration_s;
    loop.quit();
  });
  loop.exec();
  recorder.look();
  const bool is_complete = !is_recorded || (recorder.busiest() && recorder.busiest()->written == static_cast<std::uint64_t>(frames));
  return is_complete ? fps : 0;
}

}  // namespace

int main(int argc, char** argv) {
  QCoreApplication application(argc, argv);
  const int rounds = argc > 1 ? std::atoi(argv[1]) : 20;
  const int frames = argc > 2 ? std::atoi(argv[2]) : 2000;
  const support::VirtualDisplay display;
  bench::LocalBench bench;
  std::vector<core::VisitValues> visits;
  (void)showCube(bench, display.name(), false, frames);  // a warm-up
  int round = 0;
  for (const core::Side first : core::drawRounds(rounds, 1)) {
    ++round;
    for (const bool is_recorded : {first == core::Side::Changed, first == core::Side::Baseline}) {
      const double fps = showCube(bench, display.name(), is_recorded, frames);
      if (fps <= 0) {
        std::fputs("the cube could not be shown, or its frames were not all recorded\n", stderr);
        return 1;
      }
      visits.push_back({is_recorded ? core::Side::Changed : core::Side::Baseline, static_cast<int>(visits.size()) + 1, round, {fps}});
    }
  }
  const auto effect = core::effectOf(visits, 0.95);
  if (!effect) {
    std::fputs((effect.error().sentence() + "\n").c_str(), stderr);
    return 1;
  }
  const core::PercentChange change = core::changePercent(*effect);
  fmt::print("{} rounds of {} frames, about {:.0f} FPS: recording changes the frame rate by {} — {}.\n", rounds, frames,
             effect->level_baseline, core::changeText(change), core::verdictName(core::verdictOf(change.interval, 1)));
  return 0;
}
