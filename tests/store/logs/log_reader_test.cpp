// Large logs: read on two threads and block by block, they say the same as small ones.
#include <gtest/gtest.h>

#include <cmath>

#include <fmt/format.h>

#include "store/logs/log_shape.h"
#include "support/test_folder.h"

namespace {

// More than one block of a file, and far more than is worth a second thread.
constexpr int kRows = 500000;

class LargeLogs : public testing::Test {
 protected:
  static std::string text(int rows, const std::string& last = "") {
    std::string log = "time_s,frame_ms,power_w\n";
    for (int i = 0; i < rows; ++i) {
      if (i == rows / 2) log += "# a remark in between\n\n";
      log += fmt::format("{:.4f},{:.4f},{}\n", 0.016 * i, 16 + 0.001 * (i % 97), 190 + i % 11);
    }
    return log + last;
  }
  static store::LogShape shapeOf(const std::string& log) { return *store::detectShape(log.substr(0, 20000), "log"); }

  support::TestFolder folder_;
};

TEST_F(LargeLogs, KeepEveryRowInItsPlace) {
  const std::string log = text(kRows);
  const auto runs = store::importLog(log, shapeOf(log), "log");
  ASSERT_TRUE(runs.ok()) << runs.error().sentence();
  ASSERT_EQ(runs->size(), 1U);
  ASSERT_EQ(runs->front().frame_ms.size(), static_cast<std::size_t>(kRows));
  for (int i = 0; i < kRows; i += 997) {
    const auto row = static_cast<std::size_t>(i);
    EXPECT_DOUBLE_EQ(runs->front().frame_ms[row], std::round((16 + 0.001 * (i % 97)) * 1e4) / 1e4) << i;
    EXPECT_DOUBLE_EQ(runs->front().others[1][row], 190 + i % 11) << i;
  }
}

TEST_F(LargeLogs, AreTheSameFromAFile) {
  const std::string log = text(kRows, "8000,16.5,200");  // without a last line break
  folder_.write("log.csv", log);
  ASSERT_GT(log.size(), std::size_t{9} << 20);
  const auto head = store::headOfLog(folder_ / "log.csv");
  ASSERT_TRUE(head.ok());
  EXPECT_LT(head->size(), log.size());
  EXPECT_EQ(head->back(), '\n');
  const auto from_file = store::importLogFile(folder_ / "log.csv", shapeOf(log));
  const auto from_text = store::importLog(log, shapeOf(log), "log");
  ASSERT_TRUE(from_file.ok()) << from_file.error().sentence();
  EXPECT_EQ(from_file->front().frame_ms, from_text->front().frame_ms);
  EXPECT_EQ(from_file->front().others, from_text->front().others);
  EXPECT_EQ(from_file->front().frame_ms.size(), static_cast<std::size_t>(kRows) + 1);
}

TEST_F(LargeLogs, NameTheLineOfAFlawWhereverItIs) {
  const std::string log = text(kRows, "8000,slow,200\n");
  const std::string line = std::to_string(kRows + 4);  // a header, a remark and an empty line count too
  folder_.write("log.csv", log);
  for (const auto& runs :
       {store::importLog(log, shapeOf(log), "log"), store::importLogFile(folder_ / "log.csv", shapeOf(log))}) {
    ASSERT_FALSE(runs.ok());
    EXPECT_EQ(runs.error().what, "'slow' is not a number");
    EXPECT_TRUE(runs.error().where.ends_with(", line " + line + ", column 'frame_ms'")) << runs.error().where;
  }
  const std::string negative = text(kRows, "8000,-3,200\n");  // found after all rows are in
  const auto runs = store::importLog(negative, shapeOf(negative), "log");
  ASSERT_FALSE(runs.ok());
  EXPECT_TRUE(runs.error().where.ends_with(", line " + line + ", column 'frame_ms'")) << runs.error().where;
}

TEST_F(LargeLogs, KeepRunsApartAcrossTheMiddle) {
  std::string log = "run;t_ms\n";
  for (int run = 1; run <= 3; ++run)
    for (int i = 0; i < 100000; ++i) log += fmt::format("{};{}\n", run, 16 * i);
  const auto runs = store::importLog(log, shapeOf(log), "log");
  ASSERT_TRUE(runs.ok()) << runs.error().sentence();
  ASSERT_EQ(runs->size(), 3U);  // whichever thread met their beginnings
  for (const store::ImportedRun& run : *runs) EXPECT_EQ(run.frame_ms.size(), 99999U);
  EXPECT_EQ(runs->at(2).name, "3");
}

}  // namespace
