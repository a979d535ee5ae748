#include <gtest/gtest.h>

#include <cmath>
#include <cstdlib>
#include <filesystem>
#include <numeric>
#include <sstream>

#include "simbench/commands.h"
#include "simbench/model.h"
#include "support/test_folder.h"

namespace {

constexpr const char* kTruth = R"({
  "seed": 11, "visit_sd": 0.01, "heat_percent": 2, "heat_minutes": 10,
  "variables": {"memory_speed": {"initial": "4800", "levels": {"4800": {}, "6000": {"memory": 0.8}}}},
  "cases": {
    "Ring pass@4K dome": {"processor_ms": 4, "graphics_ms": 6, "memory_ms": 12, "seconds": 20, "stutters_per_minute": 6, "stutter_ms": 40},
    "Sky survey@full": {"result": "time", "processor_ms": 1000, "memory_ms": 4000, "overlap": 0}
  }})";

class SimulatedBench : public testing::Test {
 protected:
  void SetUp() override {
    folder_.write("truth.json", kTruth);
    ASSERT_EQ(command({"init", "--truth", folder_ / "truth.json"}), 0) << err_.str();
  }
  int command(const std::vector<std::string>& words) {
    const std::string state = folder_ / "bench";
    std::vector<const char*> argv{"iron-lever-simbench", words.front().c_str(), "--state", state.c_str()};
    for (std::size_t i = 1; i < words.size(); ++i) argv.push_back(words[i].c_str());
    out_.str("");
    err_.str("");
    return simbench::runCommandLine(static_cast<int>(argv.size()), argv.data(), out_, err_);
  }
  simbench::BenchState state() const { return *simbench::loadBench(folder_ / "bench"); }
  double averageMs(const simbench::BenchState& state) const {
    const auto pass = simbench::simulatePass(state, state.truth.cases.at("Ring pass@4K dome"), "Ring pass@4K dome");
    return 1000 * pass.seconds / static_cast<double>(pass.frame_ms.size());
  }

  support::TestFolder folder_;
  std::ostringstream out_;
  std::ostringstream err_;
};

TEST_F(SimulatedBench, ASettingTakesEffectWithTheRestart) {
  const std::string boot = state().boot_id;
  ASSERT_EQ(command({"set", "memory_speed=6000"}), 0);
  EXPECT_EQ(state().factors().memory, 1.0);
  ASSERT_EQ(command({"reboot"}), 0);
  EXPECT_EQ(state().factors().memory, 0.8);
  EXPECT_NE(state().boot_id, boot);
}

TEST_F(SimulatedBench, TheSameStateGivesTheSameFrames) {
  const auto once = state();
  const auto& a_case = once.truth.cases.at("Ring pass@4K dome");
  EXPECT_EQ(simbench::simulatePass(once, a_case, "x").frame_ms, simbench::simulatePass(state(), a_case, "x").frame_ms);
}

TEST_F(SimulatedBench, RestartsAndPassesAndHeatEachAddTheirPart) {
  simbench::BenchState bench = state();
  const double first = averageMs(bench);
  ++bench.runs;
  EXPECT_NE(averageMs(bench), first);
  --bench.runs;
  bench.warm_minutes = 1000;
  EXPECT_NEAR(std::log(averageMs(bench) / first), 0.02, 0.004);  // heat_percent; stutters fall elsewhere
  bench.warm_minutes = 0;
  simbench::reboot(bench);
  EXPECT_GT(std::abs(std::log(averageMs(bench) / first)), 1e-4);
}

TEST_F(SimulatedBench, WritesALogAndATime) {
  ASSERT_EQ(command({"run", "--case", "Ring pass@4K dome", "--out", folder_ / "log.csv", "--pace", "0"}), 0)
      << err_.str();
  EXPECT_TRUE(support::contents(folder_ / "log.csv").starts_with("frame_ms\n"));
  ASSERT_EQ(command({"run", "--case", "Sky survey@full", "--pace", "0"}), 0);
  EXPECT_NE(out_.str().find("\"seconds\":"), std::string::npos) << out_.str();
}

TEST_F(SimulatedBench, ShowsItsMachineAndAnAccidentInOneBoot) {
  simbench::BenchState bench = state();
  bench.truth.accidents[2] = {{1, 1, 2, 1}, {{"link_width", 8}}};
  EXPECT_EQ(bench.machine().link_width, 16);
  EXPECT_EQ(bench.factors().memory, 1.0);
  simbench::reboot(bench);
  EXPECT_EQ(bench.machine().link_width, 8);
  EXPECT_EQ(bench.factors().memory, 2.0);
  simbench::reboot(bench);
  EXPECT_EQ(bench.machine().link_width, 16);
}

// What a restart and a pass without waiting would take goes by on the bench's clock, which whoever works on it reads.
TEST_F(SimulatedBench, HasAClockOfItsOwn) {
  const auto shown_ms = [&] { return std::stoll(support::contents(folder_ / "bench/machine/clock_ahead_ms")); };
  EXPECT_EQ(shown_ms(), 0);
  ASSERT_EQ(command({"run", "--case", "Ring pass@4K dome", "--out", folder_ / "log.csv", "--pace", "0"}), 0);
  EXPECT_NEAR(static_cast<double>(shown_ms()), 20'000, 100);  // a pass of 20 s
  ASSERT_EQ(command({"reboot"}), 0);
  EXPECT_NEAR(static_cast<double>(shown_ms()), 20'000 + 210'000, 100);
  EXPECT_EQ(state().clock_ahead_ms, shown_ms());
  std::filesystem::remove_all(folder_ / "bench");
  ASSERT_EQ(command({"init", "--truth", folder_ / "truth.json", "--clock-ahead-ms", "-3600000"}), 0);
  EXPECT_EQ(shown_ms(), -3'600'000);
}

TEST_F(SimulatedBench, WritesItsMachineAnewAtEachRestart) {
  const std::string boot_file = folder_ / "bench/machine/proc/sys/kernel/random/boot_id";
  const std::string before = support::contents(boot_file);
  EXPECT_EQ(before, state().boot_id + "\n");
  ASSERT_EQ(command({"reboot"}), 0);
  EXPECT_NE(support::contents(boot_file), before);
  EXPECT_FALSE(std::filesystem::exists(folder_ / "bench/machine.old"));
}

TEST_F(SimulatedBench, PrintsWhatLoadingTookAndSaysWhereItDoesNotRun) {
  folder_.write("large.json", R"({"seed": 11,
    "variables": {"memory": {"initial": "32", "levels": {
      "32": {}, "64": {"memory": 0.8, "machine": {"memory_gib": 32}}}}},
    "cases": {"Sky survey@small": {"result": "time", "memory_ms": 4000, "load_s": 10, "warns_below_gib": 64},
              "Sky survey@large": {"result": "time", "memory_ms": 4000, "needs_gib": 64}}})");
  std::filesystem::remove_all(folder_ / "bench");
  ASSERT_EQ(command({"init", "--truth", folder_ / "large.json"}), 0) << err_.str();
  const auto loaded = [&] {
    const std::string said = out_.str();
    const auto at = said.find("loaded in ");
    return at == std::string::npos ? 0 : std::atof(said.c_str() + at + 10);
  };
  ASSERT_EQ(command({"run", "--case", "Sky survey@small"}), 0) << err_.str();
  EXPECT_NEAR(loaded(), 10, 0.4);
  EXPECT_NE(out_.str().find("LOW MEMORY"), std::string::npos);
  EXPECT_EQ(command({"run", "--case", "Sky survey@large"}), 3);
  EXPECT_NE(err_.str().find("not enough memory: 32 GiB, and 64 are needed"), std::string::npos) << err_.str();
  ASSERT_EQ(command({"set", "memory=64", "--reboot"}), 0) << err_.str();
  ASSERT_EQ(command({"run", "--case", "Sky survey@small"}), 0) << err_.str();
  EXPECT_NEAR(loaded(), 8, 0.4);
  EXPECT_EQ(out_.str().find("LOW MEMORY"), std::string::npos);
  EXPECT_EQ(command({"run", "--case", "Sky survey@large"}), 0) << err_.str();
}

TEST_F(SimulatedBench, RefusesATruthWithAFieldThatNoMachineHas) {
  folder_.write("odd.json", R"({"seed": 1, "variables": {}, "cases": {}, "machine": {"memory_mhz": 3000}})");
  EXPECT_EQ(command({"init", "--truth", folder_ / "odd.json"}), 1);
  EXPECT_NE(err_.str().find("already holds a bench"), std::string::npos);  // and the bench that is there stays
  std::filesystem::remove_all(folder_ / "bench");
  EXPECT_EQ(command({"init", "--truth", folder_ / "odd.json"}), 1);
  EXPECT_NE(err_.str().find("memory_mhz"), std::string::npos) << err_.str();
}

TEST_F(SimulatedBench, NamesWhatItDoesNotKnow) {
  EXPECT_EQ(command({"set", "memory_speed=9000"}), 1);
  EXPECT_NE(err_.str().find("4800, 6000"), std::string::npos);
  EXPECT_EQ(command({"run", "--case", "Unknown@x", "--pace", "0"}), 1);
  EXPECT_EQ(command({"init", "--truth", folder_ / "truth.json"}), 1);
  EXPECT_EQ(command({"fly"}), 2);
}

}  // namespace
