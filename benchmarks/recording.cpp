// What does recording cost? A program of ours works for a while, shows a frame, and so on, at several rates. Within one
// process it hands its frames over now through the recorder, now past it, in rounds of a drawn order; the difference is
// judged as any other change, beside a control in which both ways go past it.
// Blocks are short, so that what a shared machine does meanwhile strikes both sides of a round alike.
//   recording_benchmark [ROUNDS [BLOCK_MS]]
#include <dlfcn.h>
#include <unistd.h>

#include <QCoreApplication>
#include <QProcess>
#include <QTimer>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <sstream>

#include <fmt/format.h>

#include "core/estimate/verdict.h"
#include "core/estimate/wording.h"
#include "core/study/study.h"
#include "core/values/number_text.h"
#include "session/programs/frame_recorder.h"

namespace {

using Clock = std::chrono::steady_clock;
using Swap = void (*)(void*, unsigned long);

double secondsSince(Clock::time_point begin) { return std::chrono::duration<double>(Clock::now() - begin).count(); }

// A frame's work: the same arithmetic each time, on a few kilobytes.
std::uint64_t work(std::uint64_t steps) {
  static std::uint64_t field[512];
  std::uint64_t value = steps;
  for (std::uint64_t i = 0; i < steps; ++i) {
    value = value * 6364136223846793005ULL + 1442695040888963407ULL;
    field[value >> 55U] += value;
  }
  return field[7];
}

std::uint64_t stepsOf(double fps) {
  constexpr std::uint64_t kTrial = 20'000'000;
  const auto begin = Clock::now();
  volatile std::uint64_t sink = work(kTrial);
  (void)sink;
  return static_cast<std::uint64_t>(kTrial / secondsSince(begin) / fps);
}

double framesASecond(Swap swap, std::uint64_t steps, double block_s) {
  const auto begin = Clock::now();
  std::uint64_t frames = 0;
  std::uint64_t sum = 0;
  while (secondsSince(begin) < block_s) {
    sum += work(steps);
    swap(nullptr, 1);
    ++frames;
  }
  const double rate = static_cast<double>(frames) / secondsSince(begin);
  volatile std::uint64_t kept = sum;  // the work is not optimised away
  (void)kept;
  return rate;
}

// Prints "side frames_a_second" for each block.
int show(double fps, bool is_control, int rounds, double block_s) {
  void* library = dlopen((QCoreApplication::applicationDirPath() + QStringLiteral("/libown_gl.so")).toUtf8(), RTLD_NOW);
  const auto past = reinterpret_cast<Swap>(dlsym(library, "sameUnderAnotherName"));
  const auto through = is_control ? past : reinterpret_cast<Swap>(dlsym(library, "glXSwapBuffers"));
  const std::uint64_t steps = stepsOf(fps);
  (void)framesASecond(through, steps, 1);
  for (const core::RoundOrder& order : core::drawRounds(2, rounds, 1))
    for (const core::ConfigurationId one : order) {
      const bool is_changed = one == core::ConfigurationId::Changed;
      std::printf("%d %.9g\n", is_changed ? 1 : 0, framesASecond(is_changed ? through : past, steps, block_s));
    }
  return 0;
}

void judge(const std::string& what, double fps, int rounds, const QStringList& arguments,
           session::FrameRecorder::Noted noted) {
  session::FrameRecorder recorder(noted);
  QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
  for (const auto& [name, value] : recorder.environment({}))
    environment.insert(QString::fromStdString(name), QString::fromStdString(value));
  QProcess program;
  program.setProcessEnvironment(environment);
  program.start(QCoreApplication::applicationFilePath(), arguments);
  QTimer looking;
  QObject::connect(&looking, &QTimer::timeout, [&] { recorder.look(); });
  looking.start(250);
  QObject::connect(&program, &QProcess::finished, [] { QCoreApplication::exit(0); });
  QCoreApplication::exec();
  std::istringstream said(program.readAllStandardOutput().toStdString());
  std::vector<core::VisitValues> visits;
  int configuration = 0;
  for (double value = 0; said >> configuration >> value;)
    visits.push_back({configuration == 1 ? core::ConfigurationId::Changed : core::ConfigurationId::Baseline, static_cast<int>(visits.size()) + 1,
                      static_cast<int>(visits.size()) / 2 + 1, {value}});
  const auto effect = core::effectOf(visits, 0.95);
  if (!effect) {
    std::fputs((effect.error().sentence() + "\n").c_str(), stderr);
    return;
  }
  fmt::print("{:<34} {:>6.0f} FPS, {} rounds: {}\n", what, fps, rounds, core::changeText(core::percentChangeOf(effect->contrast)));
  std::fflush(stdout);
}

}  // namespace

int main(int argc, char** argv) {
  QCoreApplication application(argc, argv);
  if (argc > 5 && std::strcmp(argv[1], "--show") == 0)
    return show(core::numberOf(argv[2]).value(), std::strcmp(argv[3], "control") == 0, std::atoi(argv[4]),
                core::numberOf(argv[5]).value());
  const int rounds = argc > 1 ? std::atoi(argv[1]) : 2500;
  const double block_s = (argc > 2 ? core::numberOf(argv[2]).value_or(5) : 5) / 1000;
  for (const double fps : {200.0, 2000.0, 9000.0}) {
    const auto run = [&](const char* what, const char* way, session::FrameRecorder::Noted noted) {
      judge(what, fps, rounds,
            {QStringLiteral("--show"), QString::number(fps), QLatin1String(way), QString::number(rounds), QString::number(block_s)},
            noted);
    };
    run("control, nothing recorded", "control", {true, true, false});
    run("hand-over alone", "recorded", {false, false, false});
    run("with processor time and display", "recorded", {true, true, false});
  }
  return 0;
}
