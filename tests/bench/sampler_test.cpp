#include "bench/sampler.h"

#include <gtest/gtest.h>

#include <cmath>

#include "bench/local_bench.h"
#include "simbench/machine.h"
#include "support/capture_tree.h"
#include "support/test_folder.h"

namespace {

using core::ChannelRole;
using support::FakedBench;

const core::Channel* channel(const bench::Sampler& sampler, const std::string& name) {
  for (const core::Channel& one : sampler.samples().channels)
    if (one.name == name) return &one;
  return nullptr;
}

TEST(ProcessorTimes, AreReadWithTheirCores) {
  const auto time = bench::processorTimeFrom(
      "cpu  300 0 100 600 100 0 0 0 0 0\ncpu0 300 0 100 100 0 0 0 0\ncpu1 0 0 0 500 100 0 0 0\nintr 5\n");
  ASSERT_TRUE(time);
  EXPECT_DOUBLE_EQ(time->busy_s / time->all_s, 400.0 / 1100);  // waiting for a drive is rest
  ASSERT_EQ(time->cores.size(), 2U);
  EXPECT_EQ(time->cores[1].first, 0);
  for (const char* bad : {"", "rubbish", "cpu 1 2 3\n", "cpu0 1 2 3 4 5 6 7 8\n"})
    EXPECT_FALSE(bench::processorTimeFrom(bad)) << bad;
}

TEST(ProcessorTimes, TellWhatOthersUsed) {
  const bench::ProcessorTime before{10, 100, {{}, {}}};
  const bench::ProcessorTime after{14, 110, {{}, {}}};  // five seconds of two cores
  EXPECT_DOUBLE_EQ(*bench::othersBusyPercent(before, after, 3), 20);
  EXPECT_EQ(bench::othersBusyPercent(before, after, 9), 0);  // clocks of different grain never say less than nothing
  EXPECT_FALSE(bench::othersBusyPercent(before, before, 0));
  EXPECT_FALSE(bench::othersBusyPercent(before, {10.3, 100.8, {{}, {}}}, 0));  // too short to tell
}

TEST(Samplers, FollowWhatABenchShows) {
  FakedBench bench;
  const std::string chip = "/sys/class/hwmon/hwmon3/";
  bench.files = {{chip + "name", "chip\n"},
                 {chip + "temp1_input", "61500\n"},
                 {chip + "temp1_label", "die\n"},
                 {chip + "temp1_crit", "95000\n"},
                 {chip + "temp2_input", "40000\n"},
                 {chip + "temp2_crit", "-273150\n"},  // nonsense that some chips leave
                 {chip + "power1_average", "120500000\n"},
                 {"/proc/stat", "cpu 0 0 0 0 0 0 0 0\ncpu0 0 0 0 0 0 0 0 0\ncpu1 0 0 0 0 0 0 0 0\n"},
                 {"/proc/meminfo", "MemTotal: 4096 kB\nMemAvailable: 1024 kB\n"},
                 {"/proc/pressure/io", "some avg10=1.50 avg60=0 avg300=0 total=1\n"},
                 {"/sys/bus/pci/devices/0000:03:00.0/class", "0x030000\n"},
                 {"/sys/bus/pci/devices/0000:03:00.0/current_link_speed", "16.0 GT/s PCIe\n"},
                 {"/sys/bus/pci/devices/0000:03:00.0/aer_dev_correctable", "Receiver Error 2\nTOTAL_ERR_COR 2\n"},
                 {"/sys/bus/pci/devices/0000:03:00.0/pp_dpm_sclk", "0: 500Mhz\n1: 2400Mhz *\n"},
                 {"/sys/bus/pci/devices/0000:04:00.0/class", "0x030000\n"},
                 {"/sys/bus/pci/devices/0000:04:00.0/power/runtime_status", "suspended\n"},
                 {"/sys/bus/pci/devices/0000:04:00.0/gpu_busy_percent", "0\n"}};
  bench::Sampler sampler(bench);
  bench.files["/proc/stat"] = "cpu 100 0 0 100 0 0 0 0\ncpu0 100 0 0 0 0 0 0 0\ncpu1 0 0 0 100 0 0 0 0\n";
  sampler.take(1);
  bench.files.erase(chip + "temp1_input");
  bench.files["/sys/bus/pci/devices/0000:03:00.0/current_link_speed"] = "2.5 GT/s PCIe\n";
  sampler.take(2);
  EXPECT_EQ(sampler.samples().at_s, (std::vector<double>{1, 2}));
  const core::Channel* die = channel(sampler, "chip die");
  ASSERT_NE(die, nullptr);
  EXPECT_EQ(die->critical, 95);
  EXPECT_EQ(die->values[0], 61.5);
  EXPECT_TRUE(std::isnan(die->values[1]));  // a gap stays a gap
  EXPECT_FALSE(channel(sampler, "chip temp2")->critical);
  EXPECT_EQ(channel(sampler, "chip power1")->values[0], 120.5);
  EXPECT_EQ(channel(sampler, "processor load")->values[0], 50);
  EXPECT_EQ(channel(sampler, "busiest core")->values[0], 100);
  EXPECT_EQ(channel(sampler, "memory in use")->values[0], 3);
  EXPECT_EQ(channel(sampler, "waiting for io")->values[0], 1.5);
  EXPECT_EQ(channel(sampler, "link rate")->values, (std::vector<double>{16, 2.5}));
  EXPECT_EQ(channel(sampler, "link errors, correctable")->values[0], 2);
  EXPECT_EQ(channel(sampler, "graphics clock")->values[0], 2400);
  EXPECT_EQ(channel(sampler, "graphics load"), nullptr);  // asking the sleeping one would wake it
  EXPECT_GT(channel(sampler, "sampling")->values[0], 0);
  EXPECT_EQ(bench::hottestC(bench), 40);
}

TEST(Samplers, ReadPowerOffCountersOfEnergyThatWrapAndStandStill) {
  FakedBench bench;
  const std::string zone = "/sys/class/powercap/intel-rapl:0/";
  bench.files = {{zone + "name", "package-0\n"},
                 {zone + "energy_uj", "900000000\n"},
                 {zone + "max_energy_range_uj", "1000000000\n"},
                 {"/sys/class/powercap/intel-rapl:0:0/name", "dram\n"}};  // its counter is root's
  bench::Sampler sampler(bench);
  const std::pair<double, const char*> moments[] = {
      {0, "900000000"}, {1, "945000000"}, {3, "35000000"}, {4, "35000000"}, {5, "95000000"}};
  for (const auto& [at_s, counted] : moments) {
    bench.files[zone + "energy_uj"] = counted;
    sampler.take(at_s);
  }
  const core::Channel* power = channel(sampler, "power of package-0");
  ASSERT_NE(power, nullptr);
  EXPECT_EQ(power->role, ChannelRole::Power);
  EXPECT_TRUE(std::isnan(power->values[0]));  // nothing to compare with yet
  EXPECT_DOUBLE_EQ(power->values[1], 45);
  EXPECT_DOUBLE_EQ(power->values[2], 45);     // 90 J in two seconds, across the counter's end
  EXPECT_TRUE(std::isnan(power->values[3]));  // it stood still: that is no measurement
  EXPECT_DOUBLE_EQ(power->values[4], 60);
  EXPECT_EQ(channel(sampler, "power of dram"), nullptr);
}

TEST(Samplers, TellTheClockOfEachKindOfCore) {
  FakedBench bench;
  const std::string cpus = "/sys/devices/system/cpu/";
  bench.files = {{cpus + "cpu0/cpufreq/scaling_cur_freq", "4900000\n"},
                 {cpus + "cpu8/cpufreq/scaling_cur_freq", "3700000\n"}};
  bench::Sampler of_one_kind(bench);
  of_one_kind.take(0);
  EXPECT_EQ(channel(of_one_kind, "processor clock")->values[0], 4900);
  bench.files["/sys/bus/event_source/devices/cpu_core/cpus"] = "0-7\n";
  bench.files["/sys/bus/event_source/devices/cpu_atom/cpus"] = "8-15\n";
  bench::Sampler of_two(bench);
  of_two.take(0);
  EXPECT_EQ(channel(of_two, "clock of the large cores")->values[0], 4900);
  EXPECT_EQ(channel(of_two, "clock of the small cores")->values[0], 3700);
  EXPECT_EQ(channel(of_two, "processor clock"), nullptr);
}

TEST(Samplers, SayWhatTheyCannotReadAndWhy) {
  const auto reasonOf = [](const bench::BenchConnection& bench, const std::string& what) -> std::string {
    const bench::Sampler sampler(bench);
    for (const core::UnreadChannel& one : sampler.samples().unread)
      if (one.what == what) return one.reason;
    return "read";
  };
  const FakedBench bare;
  EXPECT_EQ(reasonOf(bare, "power of the processor"), "the kernel shows no energy counter of it");
  EXPECT_EQ(reasonOf(bare, "graphics load"), "there is no graphics device");
  EXPECT_EQ(reasonOf(bare, "fans"), "the kernel shows none");
  FakedBench of_root;
  of_root.errors = {{"/sys/class/powercap/intel-rapl:0/energy_uj", EACCES}};
  EXPECT_EQ(reasonOf(of_root, "power of the processor"), "only root may read its energy counters");
  FakedBench with_card;
  with_card.files = {{"/sys/bus/pci/devices/0000:03:00.0/class", "0x030000\n"},
                     {"/sys/bus/pci/devices/0000:03:00.0/gpu_busy_percent", "37\n"}};
  EXPECT_EQ(reasonOf(with_card, "graphics load"), "read");
  EXPECT_EQ(reasonOf(with_card, "graphics clock"), "its driver does not tell");
}

TEST(Samplers, ReadTheMachineThatRunsTheTests) {
  const bench::LocalBench here;
  bench::Sampler sampler(here);
  sampler.take(1);
  const core::Channel* memory = channel(sampler, "memory in use");
  ASSERT_NE(memory, nullptr);
  EXPECT_GT(memory->values[0], 10);
  EXPECT_EQ(sampler.samples().channels.back().role, ChannelRole::Cost);
}

TEST(Sampler, TakesTheSlotsLinkAndNotTheOneBehindTheCardsOwnSwitch) {
  support::TestFolder folder;
  simbench::Machine machine;
  machine.link_gts = 8;
  machine.link_width = 4;
  ASSERT_TRUE(simbench::writeMachine(machine, "boot-1", 1, folder / "machine").ok());
  const bench::LocalBench bench(folder / "machine");
  bench::Sampler sampler(bench);
  sampler.take(0);
  for (const core::Channel& channel : sampler.samples().channels) {
    if (channel.name == "link rate") {
      EXPECT_EQ(channel.values, std::vector<double>{8});
    } else if (channel.name == "link lanes") {
      EXPECT_EQ(channel.values, std::vector<double>{4});
    }
  }
}

}  // namespace
