// Each kind of variable on a machine of its own, written by the simulated bench.
#include <gtest/gtest.h>

#include "bench/capture.h"
#include "bench/local_bench.h"
#include "core/comparison.h"
#include "core/device_path.h"
#include "simbench/machine.h"
#include "support/test_folder.h"

namespace {

using nlohmann::json;

class SimulatedMachine : public testing::Test {
 protected:
  core::Capture capture(const json& overrides, int boot) {
    simbench::Machine machine;
    const auto fits = simbench::overrideMachine(machine, overrides);
    EXPECT_TRUE(fits.ok()) << fits.error().sentence();
    EXPECT_TRUE(simbench::writeMachine(machine, "boot-" + std::to_string(boot), boot, folder_ / "machine").ok());
    return bench::captureBench(bench::LocalBench(folder_ / "machine"));
  }
  core::Comparison compare(const std::string& kind, const json& baseline, const json& changed) {
    const core::Capture a = capture(baseline, 1);
    const core::Capture b = capture(changed, 2);
    return core::compareCaptures(
        a, b,
        {core::findVariableKind(kind), "0000:03:00.0",
         kind == "other" ? std::vector<std::string>{"kernel/swappiness"} : std::vector<std::string>{}, "A", "B"});
  }
  support::TestFolder folder_;
};

struct KindCase {
  const char* kind;
  json baseline;
  json changed;
};

class EachKind : public SimulatedMachine, public testing::WithParamInterface<KindCase> {};

TEST_P(EachKind, IsAValidPairWhenItMovesAlone) {
  const auto result = compare(GetParam().kind, GetParam().baseline, GetParam().changed);
  EXPECT_TRUE(result.isValidPair()) << core::movedName(result.moved) << ": " << result.reason;
  EXPECT_FALSE(result.meant.empty());
}

TEST_P(EachKind, DoesNotMoveWhenNothingDoes) {
  EXPECT_NE(compare(GetParam().kind, GetParam().baseline, GetParam().baseline).moved, core::Moved::Yes);
}

TEST_P(EachKind, IsConfoundedByAnAccident) {
  json accident = GetParam().changed;
  accident["kernel"] = "6.12.49-corvane";  // somebody updated the kernel in between
  const auto result = compare(GetParam().kind, GetParam().baseline, accident);
  const bool lets_the_kernel_go =
      std::string(GetParam().kind) == "firmware_version" || std::string(GetParam().kind) == "host";
  EXPECT_EQ(result.only_variable_changed, lets_the_kernel_go) << result.reason;
}

INSTANTIATE_TEST_SUITE_P(
    Kinds, EachKind,
    testing::Values(
        KindCase{"pcie_generation", {}, {{"link_gts", 8}}}, KindCase{"pcie_width", {}, {{"link_width", 8}}},
        KindCase{"resizable_bar", {}, {{"aperture_mib", 256}}}, KindCase{"external_link", {}, {{"is_external", true}}},
        KindCase{"memory_speed", {{"memory_mts", 4800}}, {{"memory_mts", 6000}, {"memory_mv", 1400}}},
        KindCase{"memory_capacity", {}, {{"memory_modules", 4}}}, KindCase{"core_count", {}, {{"offline", "3,7"}}},
        KindCase{"core_type", {{"small_cores", 2}}, {{"small_cores", 2}, {"offline", "2-3,6-7"}}},
        KindCase{"smt", {}, {{"threads_per_core", 1}}}, KindCase{"graphics_carve_out", {}, {{"carve_out_mib", 4096}}},
        KindCase{"governor", {}, {{"governor", "powersave"}}}, KindCase{"aspm", {}, {{"link_power_saving", 2}}},
        KindCase{"firmware_version", {}, {{"firmware_version", "D2-1.15"}, {"memory_mts", 4800}}},
        KindCase{"processor", {}, {{"processor", "Ostrel Q6 6-Core Processor"}, {"cores", 6}}},
        KindCase{"board", {}, {{"board", "Corvane D4"}}},
        KindCase{"host", {}, {{"board", "Corvane L1"}, {"processor", "Ostrel M2"}}},
        KindCase{"device", {}, {{"graphics_id", "0x9020"}}}, KindCase{"other", {}, {{"swappiness", 10}}}),
    [](const auto& one) { return one.param.kind; });

TEST_F(SimulatedMachine, OfflineCoresAreOneCause) {
  const auto result = compare("memory_speed", {{"memory_mts", 4800}}, {{"memory_mts", 6000}, {"offline", "3"}});
  ASSERT_EQ(result.must_not.size(), 1U) << result.reason;
  EXPECT_EQ(result.must_not[0].field, "cpu/online");
  EXPECT_GT(result.must_not[0].consequences.size(), 2U);
}

TEST_F(SimulatedMachine, ALongPathThroughABoxLeavesTheTunnelOut) {
  const core::Capture capture = this->capture({{"is_external", true}}, 1);
  const core::DevicePath path = core::devicePath(capture, "0000:03:00.0");
  ASSERT_EQ(path.hops.size(), 3U);
  EXPECT_TRUE(path.hops[0].isVirtual());
  EXPECT_EQ(path.slot, 1U);
  EXPECT_EQ(path.narrowest, 1U);
}

TEST_F(SimulatedMachine, RefusesAFieldThatNoMachineHas) {
  simbench::Machine machine;
  EXPECT_EQ(simbench::overrideMachine(machine, {{"memory_mhz", 1}}).error().where, "machine");
  EXPECT_EQ(simbench::overrideMachine(machine, {{"memory_mts", "fast"}}).error().where, "machine.memory_mts");
}

}  // namespace
