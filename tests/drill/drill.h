#pragma once

// A sheet of three rounds that restarts its bench at every flip, on a bench that goes wrong, in a process of its own:
// to be killed, cut off, and run on a machine that fails. IRON_LEVER_DRILL=200 in the environment makes it 200 moments
// of each kind; `./lever drill 200` does.
#include <gtest/gtest.h>

#include <QCoreApplication>
#include <QElapsedTimer>
#include <QProcess>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <map>
#include <random>
#include <set>
#include <sstream>

#include "core/judgement/judgement.h"
#include "core/study/schedule.h"
#include "store/study/study_file.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace drill {

using PassKey = std::pair<std::size_t, int>;  // slot and attempt

// Several drills beside each other, each with moments of its own: IRON_LEVER_DRILL_SEED in the environment.
inline std::uint64_t seedOf(std::uint64_t base) {
  const char* asked = std::getenv("IRON_LEVER_DRILL_SEED");
  return base + (asked ? static_cast<std::uint64_t>(std::atoi(asked)) : 0);
}

inline int moments() {
  const char* asked = std::getenv("IRON_LEVER_DRILL");
  return asked ? std::atoi(asked) : 3;
}

// Of so many moments for all shapes, or all ways to fail, together one's part.
inline int part() { return (moments() + 3) / 4; }

inline core::Study sheet() {
  core::Study study = support::studyOf({"iron-lever-simbench", "run", "--state", "bench", "--case", "Ring pass@4K dome",
                                        "--pace", "0", "--out", "{log}"});
  core::Case timed = study.cases[0];
  timed.workload = "Sky survey";
  timed.preset = "full catalogue";
  timed.command = {"iron-lever-simbench",       "run",    "--state", "bench", "--case",
                   "Sky survey@full catalogue", "--pace", "0"};
  timed.source = core::ResultSource::JsonField;
  timed.field = "seconds";
  timed.metric = {"time", "s", core::Direction::LowerIsBetter};
  study.cases.push_back(timed);
  study.variable().kind = "memory_speed";
  study.machine = "bench/machine";
  study.measure_command = {"iron-lever-simbench", "measure", "--state", "bench", "memory"};
  study.stability_command = {"iron-lever-simbench", "measure", "--state", "bench", "memory-test"};
  for (std::size_t i = 0; i < 2; ++i)
    study.variable().levels[i].set_command = {"iron-lever-simbench",
                                              "set",
                                              "--state",
                                              "bench",
                                              i == 0 ? "memory_speed=4800" : "memory_speed=6000",
                                              "--reboot"};
  study.plan.order = core::Order::BalancedShuffle;
  study.plan.rounds = 3;
  study.plan.passes_per_visit = 2;
  study.plan.drawn = core::pairRounds(
      {core::ConfigurationId::Baseline, core::ConfigurationId::Changed, core::ConfigurationId::Baseline});
  study.plan.retries = 1;
  study.plan.time_limit_s = 8;  // what hangs is ended; what a busy machine starts slowly is not
  return study;
}

// The same as other shapes: with a third level a ladder; crossed with a variable whose levels differ in the environment
// of a pass; and those combinations in a row as a chain. The drawn order of every round is a balanced square's.
inline core::Study sheetOf(core::Shape shape) {
  core::Study study = sheet();
  if (shape == core::Shape::Pair) return study;
  study.shape = shape;
  study.plan.passes_per_visit = 1;
  if (shape == core::Shape::Ladder) {
    core::Level again = study.variable().levels[1];
    again.name = "6000 MT/s, second profile";
    study.variable().levels.push_back(again);
    study.plan.drawn = core::drawRounds(3, 3, 1);
    return study;
  }
  core::Variable hint;
  hint.name = "driver hint";
  hint.levels[0].name = "off";
  hint.levels[1].name = "on";
  for (std::size_t i = 0; i < 2; ++i) hint.levels[i].environment = {{"HINT", std::to_string(i)}};
  study.variables.push_back(hint);
  if (shape == core::Shape::Chain)
    study.configurations = {{"slow", {0, 0}}, {"slow, hint", {0, 1}}, {"fast, hint", {1, 1}}};
  study.plan.drawn = core::drawRounds(shape == core::Shape::Chain ? 3 : 4, 3, 1);
  return study;
}

// With a setting that the program writes at the faster level, and puts back after the visit.
inline core::Study withSetting(core::Study study) {
  study.variable().levels[1].writes = {{"/proc/sys/vm/swappiness", "37"}};
  return study;
}

// Without what hangs until its time is up, for drills that run it hundreds of times.
inline void makeQuick(const std::string& truth, const std::string& quick) {
  std::ifstream from(truth);
  std::ofstream to(quick);
  for (std::string line; std::getline(from, line);)
    if (line.find("\"hang\"") == std::string::npos) to << line << '\n';
}

class Drill : public testing::Test {
 protected:
  Drill() { setUpAgain(); }
  /// A fresh bench and a fresh study.
  void setUpAgain() {
    std::filesystem::remove_all(bench().toStdString());
    for (const char* old : {"study.ironlever", "study.ironlever-journal", "user", "copy"})
      std::filesystem::remove_all(folder_ / old);
    told_.clear();
    const std::string truth = IRON_LEVER_SOURCE "/tests/drill/faulty_bench.json";
    const std::string quick = folder_ / "truth.json";
    makeQuick(truth, quick);
    EXPECT_EQ(run(QStringLiteral("iron-lever-simbench"),
                  {QStringLiteral("init"), QStringLiteral("--state"), bench(), QStringLiteral("--truth"),
                   QString::fromStdString(hangs_too_ ? truth : quick)}),
              0);
    std::filesystem::create_directories(folder_ / "copy");
    lever_was_ = setting();
    EXPECT_TRUE(store::StudyFile::create(path_, study_).ok());
  }
  [[nodiscard]] QString bench() const { return QString::fromStdString(folder_ / "bench"); }
  static QString program(const QString& name) {
    return QCoreApplication::applicationDirPath() + QLatin1Char('/') + name;
  }
  [[nodiscard]] std::string setting() const {
    std::ifstream file(folder_ / "bench/machine/proc/sys/vm/swappiness");
    std::string line;
    std::getline(file, line);
    return line;
  }
  static int run(const QString& name, const QStringList& arguments) {
    QProcess process;
    process.start(program(name), arguments);
    process.waitForFinished(-1);
    return process.exitCode();
  }
  /// Runs the sheet until it ends, the power goes at `cut_at`, or it is killed after so many milliseconds. Remembers
  /// every pass of which it told. Returns its exit code.
  int runSheet(std::int64_t cut_at = 0, int kill_after_ms = -1) {
    QProcess process;
    begin(process, cut_at);
    if (kill_after_ms >= 0) {
      process.waitForFinished(kill_after_ms);
      process.kill();
    }
    process.waitForFinished(-1);
    return take(process);
  }
  void begin(QProcess& process, std::int64_t cut_at = 0) {
    process.setProcessChannelMode(QProcess::SeparateChannels);
    process.setProcessEnvironment(environment_);
    process.start(program(QStringLiteral("sheet_runner")),
                  {QString::fromStdString(folder_.path()), QString::number(cut_at), QString::number(seed_)});
  }
  /// What a sheet that has ended told. Returns its exit code; -1 where it crashed.
  int take(QProcess& process) {
    std::istringstream told(process.readAllStandardOutput().toStdString());
    std::string word;
    while (told >> word) {
      if (word == "acts") {
        told >> acts_;
      } else if (std::size_t slot = 0; word == "filed") {
        int attempt = 0;
        int status = 0;
        told >> slot >> attempt >> status;
        told_[{slot, attempt}] = status;
      }
    }
    problem_ = process.readAllStandardError().toStdString();
    return process.exitStatus() == QProcess::CrashExit ? -1 : process.exitCode();
  }
  [[nodiscard]] store::Recorded recorded() const {
    auto file = store::StudyFile::open(path_);
    EXPECT_TRUE(file.ok()) << file.error().sentence();
    return file ? *file->recorded() : store::Recorded{};
  }
  /// No pass of which it told is lost, and none is there twice.
  void expectNothingLost() const {
    std::map<PassKey, int> kept;
    std::map<std::size_t, int> finished;
    for (const core::Pass& pass : recorded().passes) {
      EXPECT_TRUE(kept.emplace(PassKey{pass.slot, pass.attempt}, static_cast<int>(pass.status)).second);
      if (pass.status != core::PassStatus::Finished) continue;
      EXPECT_EQ(++finished[pass.slot], 1) << "slot " << pass.slot;
    }
    for (const auto& [pass, status] : told_)
      EXPECT_TRUE(kept.contains(pass) && kept[pass] == status) << "slot " << pass.first << " attempt " << pass.second;
  }
  /// However often it was interrupted before, it can be run to its end. Where the bench fell back to another level the
  /// sheet stops before the first pass; somebody starts it again, and the level is set once more.
  void expectItCanBeFinished() {
    fallen_back_ = 0;
    int code = runSheet();
    while (code != 0 && problem_.find("was asked, 4800 MT/s is read") != std::string::npos && ++fallen_back_ < 10)
      code = runSheet();
    EXPECT_EQ(code, 0) << problem_;
    expectNothingLost();
    const auto judged = core::judgementOf(study_, store::recordOf(recorded()));
    EXPECT_TRUE(judged.findings.done.is_first_done);
    EXPECT_EQ(judged.findings.failed_passes, 0);  // each fault was made good by the plan's one retry
    EXPECT_EQ(setting(), lever_was_) << "nothing stays set";
    expectItsCopyIsWhole();
  }
  void expectItsCopyIsWhole() const {
    std::filesystem::path place;
    for (const auto& entry : std::filesystem::directory_iterator(folder_ / "copy")) place = entry.path();
    auto copy = store::StudyFile::open(place);
    ASSERT_TRUE(copy.ok()) << copy.error().sentence();
    EXPECT_EQ(copy->recorded()->passes.size(), recorded().passes.size()) << "the copy lags behind";
  }

  void killOften(int times) {
    QElapsedTimer clock;
    clock.start();
    expectItCanBeFinished();
    const auto whole_ms = static_cast<int>(clock.elapsed());
    std::mt19937 random(static_cast<std::mt19937::result_type>(seedOf(20261125)));
    for (int i = 0; i < times && !HasFailure(); ++i) {
      setUpAgain();
      const int kills = 1 + static_cast<int>(random() % 3);
      for (int k = 0; k < kills; ++k) {
        (void)runSheet(0, static_cast<int>(random() % static_cast<unsigned>(whole_ms)));
        expectNothingLost();
      }
      expectItCanBeFinished();
    }
    tell(times, "kills");
  }
  void cutOften(int times) {
    expectItCanBeFinished();
    const auto acts = static_cast<std::uint64_t>(acts_);
    ASSERT_GT(acts, 100U);
    std::mt19937_64 random(seedOf(20261126));
    for (int cuts = 0; cuts < times && !HasFailure();) {
      setUpAgain();
      seed_ = random();
      const int code = runSheet(static_cast<std::int64_t>(1 + random() % acts));
      if (code == 0) continue;  // a run that needed fewer acts was done before the power went
      ++cuts;
      EXPECT_EQ(code, 77) << problem_;
      expectNothingLost();
      // Without power the bench restarts too.
      EXPECT_EQ(
          run(QStringLiteral("iron-lever-simbench"), {QStringLiteral("reboot"), QStringLiteral("--state"), bench()}),
          0);
      expectItCanBeFinished();
    }
    tell(times, "power cuts");
  }
  /// For whoever reads what a drill says.
  void tell(int times, const char* what) const {
    if (!HasFailure())
      std::printf("%s: %d %s, nothing lost, nothing twice, nothing left set\n", core::shapeName(study_.shape), times,
                  what);
  }

  support::TestFolder folder_;
  std::string path_ = folder_ / "study.ironlever";
  core::Study study_ = sheet();
  bool hangs_too_ = false;
  std::string lever_was_;
  QProcessEnvironment environment_ = QProcessEnvironment::systemEnvironment();
  std::map<PassKey, int> told_;
  std::int64_t acts_ = 0;
  std::uint64_t seed_ = 1;
  std::string problem_;
  int fallen_back_ = 0;
};

}  // namespace drill
