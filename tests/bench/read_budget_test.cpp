// A machine that has no end: whatever stands for one, reading it ends, within bounds that are stated.
#include "bench/read_budget.h"

#include <algorithm>

#include <gtest/gtest.h>

#include "bench/capture.h"
#include "support/forwarding_bench.h"
#include "support/test_folder.h"

namespace {

/// Every folder holds folders, and every file as much as a file may.
class EndlessBench final : public support::ForwardingBench {
 public:
  [[nodiscard]] core::Result<std::string> readFile(const std::string& /*path*/) const override {
    ++looks;
    bytes += file_bytes;
    return std::string(file_bytes, '7');
  }
  [[nodiscard]] core::Result<std::vector<std::string>> listFolder(const std::string& /*path*/) const override {
    ++looks;
    std::vector<std::string> names;
    for (int i = 0; i < 1000; ++i) names.push_back(std::to_string(i));
    return names;
  }
  [[nodiscard]] core::Result<std::string> realPath(const std::string& path) const override {
    ++looks;
    return path;
  }
  std::size_t file_bytes = 1 << 20;
  mutable std::size_t looks = 0;
  mutable std::size_t bytes = 0;
};

bool tellsWhy(const core::Capture& capture, const char* words) {
  return std::any_of(capture.facts.begin(), capture.facts.end(), [&](const core::Fact& fact) {
    return fact.status == core::FactStatus::Unreadable && fact.why.find(words) != std::string::npos;
  });
}

TEST(EndlessMachines, AreReadWithinABudget) {
  const EndlessBench large;
  const core::Capture capture = bench::captureBench(large);
  EXPECT_LE(large.bytes, bench::ReadBudget().bytes + (4U << 20));
  EXPECT_TRUE(tellsWhy(capture, "more than any machine tells"));
  EndlessBench many;
  many.file_bytes = 2;
  (void)bench::captureBench(many);
  EXPECT_LE(many.looks, bench::ReadBudget().looks);
}

TEST(EndlessMachines, AreReadNoFurtherOnceSomebodyAsksForAnEnd) {
  const EndlessBench bench;
  std::stop_source stop;
  stop.request_stop();
  const core::Capture capture = bench::captureBench(bench, stop.get_token());
  EXPECT_EQ(bench.looks, 0U);
}

TEST(EndlessMachines, TakeNoMoreTimeThanTheyHave) {
  const EndlessBench bench;
  const bench::BudgetedBench late(bench, {.time = std::chrono::seconds(-1)});
  EXPECT_EQ(late.readFile("/proc/cpuinfo").error().what, "the machine took too long before its turn came");
}

TEST(EndlessMachines, AreThoseThatThePageStates) {
  std::string page = support::contents(std::string(IRON_LEVER_SOURCE) + "/docs/security.md");
  std::replace(page.begin(), page.end(), '\n', ' ');  // lines may break anywhere
  EXPECT_NE(page.find("64 MiB, 200,000 looks and 30 s for a whole machine"), std::string::npos);
  EXPECT_EQ(bench::ReadBudget().bytes, std::size_t{64} << 20);
  EXPECT_EQ(bench::ReadBudget().looks, 200'000U);
  EXPECT_EQ(bench::ReadBudget().time, std::chrono::seconds(30));
}

}  // namespace
