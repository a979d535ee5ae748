// Each kind of variable on a machine of its own, written by the simulated bench.
#include <gtest/gtest.h>

#include "bench/capture.h"
#include "bench/local_bench.h"
#include "core/machine/comparison.h"
#include "core/machine/device_path.h"
#include "core/machine/difference_sentences.h"
#include "core/record/level_measurement.h"
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
  EXPECT_FALSE(result.only_variable_changed) << result.reason;
}

INSTANTIATE_TEST_SUITE_P(
    Kinds, EachKind,
    testing::Values(
        KindCase{"pcie_generation", {}, {{"link_gts", 8}}}, KindCase{"pcie_width", {}, {{"link_width", 8}}},
        KindCase{"pcie_link", {{"link_gts", 8}}, {{"link_gts", 16}, {"link_width", 8}}},
        KindCase{"pcie_links", {}, {{"link_gts", 8}, {"link_width", 8}}},
        KindCase{"resizable_bar", {}, {{"aperture_mib", 256}}}, KindCase{"external_link", {}, {{"is_external", true}}},
        KindCase{"memory_speed", {{"memory_mts", 4800}}, {{"memory_mts", 6000}, {"memory_mv", 1400}}},
        KindCase{"memory_capacity", {}, {{"memory_modules", 4}}}, KindCase{"core_count", {}, {{"offline", "3,7"}}},
        KindCase{"core_type", {{"small_cores", 2}}, {{"small_cores", 2}, {"offline", "2-3,6-7"}}},
        KindCase{"smt", {}, {{"threads_per_core", 1}}}, KindCase{"graphics_carve_out", {}, {{"carve_out_mib", 4096}}},
        KindCase{"governor", {}, {{"governor", "powersave"}}}, KindCase{"aspm", {}, {{"link_power_saving", 2}}},
        KindCase{"firmware_version", {}, {{"firmware_version", "D2-1.15"}, {"swappiness", 10}}},
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

TEST_F(SimulatedMachine, ALongPathThroughABoxIsAsNarrowAsItsCable) {
  const core::Capture capture = this->capture({{"is_external", true}}, 1);
  const core::DevicePath path = core::devicePath(capture, "0000:03:00.0");
  ASSERT_EQ(path.hops.size(), 3U);
  EXPECT_TRUE(path.hops[0].isVirtual());
  EXPECT_EQ(path.slot, 1U);
  EXPECT_EQ(path.narrowest, 0U);
  EXPECT_EQ(path.hops[0].where, "cable");
  EXPECT_DOUBLE_EQ(*path.hops[0].rateGBps(), 5.0);  // two lanes of 20 Gb/s
  EXPECT_EQ(path.hops[0].text(), "cable, 5.0 GB/s");
  const auto band = path.hops[0].plausibleCopy();
  EXPECT_NEAR(band->lo_GBps, 2.5, 1e-9);
  EXPECT_NEAR(band->hi_GBps, 3.6, 1e-9);
  // What was measured must go through the cable, in both directions.
  const core::VariableKind& kind = *core::findVariableKind("external_link");
  for (const char* direction : {"to_device_GBps", "to_host_GBps"})
    EXPECT_DOUBLE_EQ(core::usableRate(direction, kind, "0000:03:00.0", capture)->GBps, 5.0);
}

TEST_F(SimulatedMachine, AFirstHopIsNeverInsideTheCardWhoeverMadeThePort) {
  core::Capture capture = this->capture({}, 1);
  core::Fact maker = *capture.find("pci/0000:00:01.0/vendor");
  maker.value = capture.text("pci/0000:03:00.0/vendor");
  capture.put(maker);
  const core::DevicePath path = core::devicePath(capture, "0000:03:00.0");
  EXPECT_EQ(path.hops[0].where, "slot");
  EXPECT_EQ(path.hops[1].where, "inside the card");
  EXPECT_FALSE(path.hops[0].plausibleCopy()->hi_GBps < path.hops[0].plausibleCopy()->lo_GBps);
}

TEST_F(SimulatedMachine, NumbersThatAreDealtOutAreNoDifference) {
  const auto result = compare("memory_speed", {{"memory_mts", 4800}}, {{"memory_mts", 6000}, {"graphics_number", 1}});
  EXPECT_TRUE(result.isValidPair()) << result.reason;
}

TEST_F(SimulatedMachine, ListsThatFollowFromACoreAreNoDifference) {
  // Small cores have lower limits; one of them goes off by accident.
  const auto result = compare("memory_speed", {{"memory_mts", 4800}, {"small_cores", 2}},
                              {{"memory_mts", 6000}, {"small_cores", 2}, {"offline", "3"}});
  EXPECT_EQ(core::differenceSentences(result.must_not),
            std::vector<std::string>{"the running processors went from 8 (0-7) to 7 (0-2,4-7)"});
}

TEST_F(SimulatedMachine, TwoThreadsACoreAreOneCause) {
  const auto result = compare("memory_speed", {{"memory_mts", 4800}}, {{"memory_mts", 6000}, {"threads_per_core", 1}});
  ASSERT_EQ(result.must_not.size(), 1U) << result.reason;
  EXPECT_EQ(result.must_not[0].field, "cpu/smt");
}

TEST_F(SimulatedMachine, AmountAndCarveOutAreTwoVariables) {
  const auto both = compare("memory_capacity", {}, {{"memory_modules", 4}, {"carve_out_mib", 4096}});
  EXPECT_EQ(both.moved, core::Moved::Yes);
  EXPECT_EQ(core::differenceSentences(both.must_not),
            std::vector<std::string>{"memory kept by the firmware rose from 256 MiB to 4 GiB"});
  EXPECT_EQ(compare("memory_capacity", {}, {{"carve_out_mib", 4096}}).moved, core::Moved::No);
  EXPECT_FALSE(
      compare("graphics_carve_out", {}, {{"memory_modules", 4}, {"carve_out_mib", 4096}}).only_variable_changed);
}

TEST_F(SimulatedMachine, AGraphicsDriverMustNotChange) {
  const auto result =
      compare("memory_speed", {{"memory_mts", 4800}}, {{"memory_mts", 6000}, {"driver_version", "77B0A1"}});
  EXPECT_EQ(core::differenceSentences(result.must_not),
            std::vector<std::string>{"driver version of 0000:03:00.0 changed from 3A1F0C to 77B0A1"});
}

TEST_F(SimulatedMachine, WithHeadroomNothingIsAskedThatIsTheSettingItself) {
  const auto result = compare("pcie_generation", {}, {{"link_gts", 8}});
  ASSERT_FALSE(result.comes_along.empty());
  for (const core::Difference& one : result.comes_along) EXPECT_TRUE(one.is_setting_itself) << one.field;
}

TEST_F(SimulatedMachine, RefusesAFieldThatNoMachineHas) {
  simbench::Machine machine;
  EXPECT_EQ(simbench::overrideMachine(machine, {{"memory_mhz", 1}}).error().where, "machine");
  EXPECT_EQ(simbench::overrideMachine(machine, {{"memory_mts", "fast"}}).error().where, "machine.memory_mts");
}

}  // namespace
