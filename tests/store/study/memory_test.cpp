// What opening a study takes, measured: a stranger's file at each of its bounds, read in a process of its own.
#include <malloc.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include <functional>
#include <regex>

#include <gtest/gtest.h>

#include <fmt/format.h>

#include "core/judgement/judgement.h"
#include "store/json/study_json.h"
#include "store/study/frame_codec.h"
#include "store/study/row_sum.h"
#include "store/study/study_file.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

using store::StudyFile;

#if defined(__SANITIZE_ADDRESS__) || defined(__clang__)
constexpr bool kIsMeasured = false;  // a sanitizer's own memory would be counted
#else
constexpr bool kIsMeasured = true;
#endif
constexpr double kMiB = 1 << 20;

struct Cost {
  double mib = 0;
  double processor_s = 0;
  bool is_read = false;
};

double processorSeconds() {
  rusage used{};
  getrusage(RUSAGE_SELF, &used);
  return static_cast<double>(used.ru_utime.tv_sec + used.ru_stime.tv_sec) +
         1e-6 * static_cast<double>(used.ru_utime.tv_usec + used.ru_stime.tv_usec);
}

double peakMib() {
  rusage used{};
  getrusage(RUSAGE_SELF, &used);
  return static_cast<double>(used.ru_maxrss) / 1024;
}

Cost costOfReading(const std::string& path) {
  malloc_trim(0);  // what this process has to spare is not the child's
  int ends[2];
  EXPECT_EQ(pipe(ends), 0);
  const pid_t child = fork();
  if (child == 0) {
    const double mib = peakMib();
    const double processor_s = processorSeconds();
    Cost cost;
    if (auto file = StudyFile::open(path)) {
      if (const auto recorded = file->recorded()) {
        cost.is_read = true;
        (void)core::judgementOf(file->study(), store::recordOf(*recorded));
      }
    }
    cost.mib = peakMib() - mib;
    cost.processor_s = processorSeconds() - processor_s;
    _exit(write(ends[1], &cost, sizeof cost) == sizeof cost ? 0 : 1);
  }
  close(ends[1]);
  Cost cost;
  EXPECT_EQ(read(ends[0], &cost, sizeof cost), static_cast<ssize_t>(sizeof cost));
  close(ends[0]);
  waitpid(child, nullptr, 0);
  return cost;
}

// "64 MiB, 64 bytes for each byte of its file, and three times the frames of its longest pass": as the page states it.
class Memory : public testing::Test {
 protected:
  void SetUp() override {
    if (!kIsMeasured) GTEST_SKIP() << "a sanitizer's own memory would be counted";
    const std::string page = support::contents(std::string(IRON_LEVER_SOURCE) + "/docs/security.md");
    std::smatch stated;
    const std::regex sentence(
        R"(a study takes at most (\d+) MiB, (\d+) bytes for each\s+byte of its file, and\s+three\s+times\s+the\s+frames)");
    ASSERT_TRUE(std::regex_search(page, stated, sentence)) << "the page states the budget";
    most_mib_ = std::stoi(stated[1]);
    most_for_each_byte_ = std::stoi(stated[2]);
  }
  StudyFile make(const core::Study& study = support::studyOf({"workload", "{log}"}, 3)) {
    std::filesystem::remove(path_);
    auto file = StudyFile::create(path_, study);
    EXPECT_TRUE(file->addVisit({0, 1, 1, core::ConfigurationId::Baseline, "boot", 1}).ok());
    return *std::move(file);
  }
  static core::Pass passOf(int attempt) {
    core::Pass pass;
    pass.visit_id = 1;
    pass.attempt = attempt;
    pass.value = 100;
    return pass;
  }
  /// Rows by SQL, as somebody writes them who makes the sums too.
  void write(const std::string& table, const std::string& columns, const std::string& values, int rows) {
    auto database = store::Database::open(path_, store::Database::Mode::OpenExisting);
    ASSERT_TRUE(store::addRowSum(*database).ok());
    const std::string counted =
        fmt::format("WITH RECURSIVE n(i) AS (VALUES(1) UNION ALL SELECT i + 1 FROM n WHERE i < {}) ", rows);
    ASSERT_TRUE(
        database->execute(fmt::format("{}INSERT INTO {} ({}) SELECT {} FROM n", counted, table, columns, values)).ok());
    ASSERT_TRUE(
        database->execute(fmt::format("UPDATE {} SET sum = row_sum({})", table, store::summedColumns(table))).ok());
  }
  Cost expectWithinBudget(const std::string& what, double frames = 0) {
    const double file_mib = static_cast<double>(std::filesystem::file_size(path_)) / kMiB;
    const Cost cost = costOfReading(path_);
    EXPECT_LE(cost.mib, most_mib_ + most_for_each_byte_ * file_mib + 3 * frames * sizeof(double) / kMiB)
        << what << ", a file of " << file_mib << " MiB";
    return cost;
  }

  double most_mib_ = 0;
  double most_for_each_byte_ = 0;
  support::TestFolder folder_;
  std::string path_ = folder_ / "study.ironlever";
};

TEST_F(Memory, OfTextsIsBoundedByTheFile) {
  auto file = make();
  for (int attempt = 1; attempt <= 4; ++attempt) {
    core::Pass pass = passOf(attempt);
    pass.settings = std::string(std::size_t{15} << 20, ' ');
    ASSERT_TRUE(file.addPass(pass, {}).ok());
  }
  EXPECT_TRUE(expectWithinBudget("settings").is_read);
}

TEST_F(Memory, OfFramesIsThatOfTheLongestPass) {
  auto file = make();
  constexpr std::size_t kFrames = 10'000'000;
  const std::vector<double> series(kFrames, 10.0);
  for (int attempt = 1; attempt <= 3; ++attempt) ASSERT_TRUE(file.addPass(passOf(attempt), series).ok());
  EXPECT_TRUE(expectWithinBudget("frames", kFrames).is_read);
}

TEST_F(Memory, OfJsonIsBoundedByItsValues) {
  std::string dense = "[";
  while (dense.size() < std::size_t{12} << 20) dense += "{\"\":{}},";
  dense.back() = ']';
  {
    auto file = make();
    ASSERT_TRUE(file.addPass(passOf(1), {}).ok());
  }
  auto database = store::Database::open(path_, store::Database::Mode::OpenExisting);
  ASSERT_TRUE(store::addRowSum(*database).ok());
  for (const char* column : {"samples", "settings"}) {
    auto statement = database->prepare(fmt::format("UPDATE pass SET {} = ?1", column));
    statement->bind(1, store::Blob{store::packText(dense)});
    ASSERT_TRUE(store::stepOnce(*statement).ok());
    ASSERT_TRUE(database->execute(fmt::format("UPDATE pass SET sum = row_sum({})", store::summedColumns("pass"))).ok());
    expectWithinBudget(column);
  }
}

TEST_F(Memory, OfCapturesIsBoundedByTheirReadings) {
  for (const int readings : {20'000, 100'000}) {
    auto file = make();
    core::Capture capture;
    for (int i = 0; i < readings; ++i) {
      core::Fact fact;
      fact.name = fmt::format("{:07}", i);
      fact.value = "7";
      capture.facts.push_back(std::move(fact));
    }
    for (const auto moment : {core::CaptureMoment::Start, core::CaptureMoment::UnderLoad, core::CaptureMoment::End})
      ASSERT_TRUE(file.addCapture({1, moment, capture}).ok());
    EXPECT_EQ(expectWithinBudget(fmt::format("{} readings", readings)).is_read, readings == 20'000);
  }
}

// Four times as much takes four times as long, not sixteen times; what is small is all start.
TEST_F(Memory, AndWorkGrowWithTheSize) {
  const auto expectLinear = [this](const std::string& what, const std::function<void(int)>& fill, int few) {
    double seconds[2]{};
    for (const int times : {1, 4}) {
      fill(times * few);
      const Cost cost = expectWithinBudget(fmt::format("{} {}", times * few, what));
      EXPECT_TRUE(cost.is_read) << what;
      seconds[times / 4] = std::max(cost.processor_s, 0.02);
    }
    EXPECT_LT(seconds[1], 10 * seconds[0]) << what;
  };
  expectLinear(
      "events",
      [this](int rows) {
        { auto file = make(); }
        write("event", "id, at_ms, person, kind, subject, text", "i, 1, 'p', 'note', '', 'x'", rows);
      },
      25'000);
  expectLinear(
      "exclusions",
      [this](int rows) {
        {
          auto file = make();
          ASSERT_TRUE(file.addPass(passOf(1), {}).ok());
        }
        write("event", "id, at_ms, person, kind, subject, text",
              "i, 1, 'p', CASE i % 2 WHEN 0 THEN 'excluded' ELSE 'included' END, '1', 'x'", rows);
      },
      25'000);
  expectLinear(
      "attempts",
      [this](int rows) {
        { auto file = make(); }
        write("pass",
              "id, visit_id, slot, attempt, status, failure, started_ms, duration_s, value, output, error_output",
              "i, 1, 0, i, 1, 'failed', 1, 1, NULL, x'', x''", rows);
      },
      5'000);
  expectLinear(
      "cases",
      [this](int cases) {
        core::Study study = support::studyOf({"workload", "{log}"}, 3);
        for (int i = 1; i < cases; ++i) {
          study.cases.push_back(study.cases[0]);
          study.cases.back().workload = std::to_string(i);
          study.cases.back().command.push_back(std::to_string(i));
        }
        { auto file = make(study); }
      },
      250);
}

}  // namespace
