#include "bench/capture.h"

#include <gtest/gtest.h>

#include <sys/stat.h>

#include "core/machine/device_path.h"
#include "support/capture_tree.h"
#include "support/test_folder.h"

namespace {

using core::Capture;
using core::FactStatus;
using support::FakedBench;

Capture captureOfTree(const std::string& setting) {
  return bench::captureBench(bench::LocalBench(support::domeNode(setting)));
}

TEST(Capture, ReadsTheWholePathToTheDevice) {
  const Capture capture = captureOfTree("gen4");
  const core::DevicePath path = core::devicePath(capture, core::likelyGraphicsDevice(capture));
  EXPECT_EQ(path.chain, (std::vector<std::string>{"0000:00:01.0", "0000:01:00.0", "0000:02:00.0", "0000:03:00.0"}));
  ASSERT_EQ(path.hops.size(), 2U);
  EXPECT_EQ(path.hops[0].where, "slot");
  EXPECT_EQ(path.hops[1].where, "inside the card");
  EXPECT_EQ(path.narrowest, 0U);  // both are equal: the one nearest the processor
  EXPECT_EQ(path.hops[0].now, (core::LinkGrade{16, 16}));
  EXPECT_EQ(path.hops[0].target_gts, 16);
}

TEST(Capture, GivesEveryFactAValueWithItsSourceOrAReason) {
  const Capture capture = captureOfTree("gen3");
  EXPECT_GT(capture.facts.size(), 200U);
  for (const core::Fact& fact : capture.facts) {
    EXPECT_FALSE(fact.source.empty()) << fact.name;
    EXPECT_EQ(fact.isRead(), fact.why.empty()) << fact.name;
  }
  EXPECT_EQ(capture.find("dmi/memory/DIMM_A2/configured_speed")->shown(), "4800 MT/s");
  EXPECT_EQ(capture.number("memory/installed"), 32.0 * (1 << 30));
}

TEST(Capture, CollectsNoSerialNumbers) {
  for (const core::Fact& fact : captureOfTree("gen4").facts) {
    EXPECT_EQ(fact.value.find("0A117C01"), std::string::npos) << fact.name;
    EXPECT_EQ(fact.value.find("TS4D20000117"), std::string::npos) << fact.name;
    EXPECT_EQ(fact.value.find("7f1d2c0e-55aa"), std::string::npos) << fact.name;
  }
}

TEST(Capture, TellsDeniedAbsentAndBusyApart) {
  FakedBench faked;
  const std::string cpus = "/sys/devices/system/cpu";
  faked.errors["/sys/firmware/dmi/tables/DMI"] = EACCES;
  faked.files[cpus + "/online"] = "0-3\n";
  faked.errors[cpus + "/cpufreq/policy0/scaling_governor"] = EBUSY;
  const Capture capture = bench::captureBench(faked);
  const core::Fact* denied = capture.find("memory/installed");
  ASSERT_NE(denied, nullptr);
  EXPECT_EQ(denied->status, FactStatus::Denied);
  EXPECT_NE(denied->why.find("iron-lever-root-facts"), std::string::npos);
  EXPECT_EQ(capture.find("cpu/governor")->status, FactStatus::Unreadable);
  EXPECT_EQ(capture.find("firmware/version"), nullptr);  // a virtual machine may have none
  EXPECT_FALSE(capture.is_privileged);
}

TEST(Capture, ReadsOlderKernelsLinkTexts) {
  FakedBench faked;
  const std::string device = "/sys/bus/pci/devices/0000:03:00.0/";
  faked.files[device + "class"] = "0x030000\n";
  faked.files[device + "current_link_speed"] = "8 GT/s\n";
  faked.files[device + "max_link_speed"] = "Unknown speed\n";
  const Capture capture = bench::captureBench(faked);
  EXPECT_EQ(capture.text("pci/0000:03:00.0/current_link_speed"), "8.0 GT/s");
  EXPECT_EQ(capture.find("pci/0000:03:00.0/max_link_speed")->status, FactStatus::Unreadable);
}

TEST(Capture, LetsASleepingDeviceSleep) {
  FakedBench faked;
  const std::string device = "/sys/bus/pci/devices/0000:03:00.0/";
  faked.files[device + "class"] = "0x030000\n";
  faked.files[device + "power/runtime_status"] = "suspended\n";
  faked.files[device + "current_link_speed"] = "2.5 GT/s PCIe\n";
  const Capture capture = bench::captureBench(faked);
  const core::Fact* speed = capture.find("pci/0000:03:00.0/current_link_speed");
  ASSERT_NE(speed, nullptr);
  EXPECT_EQ(speed->status, FactStatus::Unreadable);
}

TEST(Capture, SaysWhichPoliciesDisagree) {
  FakedBench faked;
  for (const int n : {0, 1, 2})
    faked.files["/sys/devices/system/cpu/cpufreq/policy" + std::to_string(n) + "/scaling_governor"] =
        n == 2 ? "powersave\n" : "performance\n";
  EXPECT_EQ(bench::captureBench(faked).text("cpu/governor"), "0 1: performance, 2: powersave");
}

TEST(Capture, ReadsWhatOnlySomeMachinesShow) {
  FakedBench faked;
  faked.files["/sys/kernel/debug/sched/preempt"] = "none voluntary (full) lazy\n";
  faked.files["/sys/class/firmware-attributes/maker/attributes/Slot1Speed/current_value"] = "Gen 4\n";
  faked.files["/sys/devices/system/node/node0/access0/initiators/read_bandwidth"] = "89600\n";
  faked.files["/sys/devices/system/cpu/online"] = "0-1\n";
  for (const int n : {0, 1})
    faked.files["/sys/devices/system/cpu/cpu" + std::to_string(n) + "/thermal_throttle/core_throttle_count"] = "21\n";
  const std::string card = "/sys/bus/pci/devices/0000:03:00.0/";
  faked.files[card + "class"] = "0x030000\n";
  faked.files[card + "drm/card1/gt/gt0/rps_max_freq_mhz"] = "2450\n";
  faked.files[card + "tile0/gt1/freq0/max_freq"] = "1500\n";
  const Capture capture = bench::captureBench(faked);
  EXPECT_EQ(capture.text("kernel/preemption"), "full");
  EXPECT_EQ(capture.text("firmware/setting/Slot1Speed"), "Gen 4");
  EXPECT_EQ(capture.number("numa/node0/read_bandwidth"), 89600);
  EXPECT_EQ(capture.number("cpu/throttle_count"), 42);
  EXPECT_EQ(capture.find("cpu/throttle_count")->kind, core::FactKind::Evidence);
  EXPECT_EQ(capture.number("pci/0000:03:00.0/gt0/max_mhz"), 2450);
  EXPECT_EQ(capture.number("pci/0000:03:00.0/gt1/max_mhz"), 1500);
}

TEST(Capture, WorksOnTheMachineThatRunsTheTests) {
  const Capture capture = bench::captureBench(bench::LocalBench());
  EXPECT_FALSE(capture.boot_id.empty());
  EXPECT_FALSE(capture.text("kernel/osrelease").empty());
  EXPECT_GE(capture.number("cpu/logical").value_or(1), 1);
}

TEST(RootFacts, FillInWhatTheBenchDenies) {
  FakedBench faked;
  const support::TestFolder folder;
  faked.files["/proc/sys/kernel/random/boot_id"] = "boot-1\n";
  faked.errors["/sys/firmware/dmi/tables/DMI"] = EACCES;
  std::filesystem::create_directories(folder / "proc/sys/kernel/random");
  std::filesystem::create_directories(folder / "sys/firmware/dmi/tables");
  folder.write("proc/sys/kernel/random/boot_id", "boot-1\n");
  folder.write("sys/firmware/dmi/tables/DMI",
               *bench::LocalBench(support::domeNode("gen4")).readFile("/sys/firmware/dmi/tables/DMI"));
  const auto with = bench::WithRootFacts::open(faked, folder.path());
  ASSERT_TRUE(with.ok()) << with.error().sentence();
  EXPECT_EQ(bench::captureBench(*with).number("dmi/memory/DIMM_A2/configured_speed"), 6000);
  folder.write("proc/sys/kernel/random/boot_id", "boot-0\n");
  EXPECT_EQ(bench::WithRootFacts::open(faked, folder.path()).error().kind, core::ErrorKind::OutOfRange);
}

TEST(FileTree, FollowsLinksThatBecameFilesAndNeverLeavesItsRoot) {
  const support::TestFolder folder;
  std::filesystem::create_directories(folder / "sys/devices/card");
  std::filesystem::create_directories(folder / "sys/class");
  folder.write("sys/devices/card/vendor", "0xf1c9\n");
  folder.write("sys/class/flat", "../devices/card");
  std::filesystem::create_symlink("../devices/card", folder / "sys/class/real");
  std::filesystem::create_symlink("../../../../../../etc/passwd", folder / "sys/class/outside");
  const bench::FileTree tree(folder.path());
  EXPECT_EQ(*tree.read("/sys/class/flat/vendor"), "0xf1c9\n");
  EXPECT_EQ(*tree.read("/sys/class/real/vendor"), "0xf1c9\n");
  EXPECT_EQ(*tree.realPath("/sys/class/flat"), "/sys/devices/card");
  EXPECT_EQ(tree.read("/sys/class/outside").error().kind, core::ErrorKind::Missing);
  EXPECT_EQ(tree.read("/../../etc/passwd").error().kind, core::ErrorKind::Missing);
}

TEST(Capture, NamesADriveByItsControllerAndCountsErrorsAsEvidence) {
  support::FakedBench bench;
  bench.files = {{"/sys/block/nvme1n1/queue/scheduler", "[none] mq-deadline\n"},
                 {"/sys/devices/system/edac/mc/mc0/ce_count", "3\n"},
                 {"/sys/devices/system/edac/mc/mc0/ue_count", "0\n"}};
  bench.links = {{"/sys/block/nvme1n1", "/sys/devices/pci0000:00/0000:00:06.0/0000:04:00.0/nvme/nvme1/nvme1n1"}};
  const core::Capture capture = bench::captureBench(bench);
  EXPECT_EQ(capture.text("storage/0000:04:00.0/scheduler"), "none");
  const core::Fact* errors = capture.find("memory/errors/mc0/corrected");
  ASSERT_NE(errors, nullptr);
  EXPECT_EQ(errors->kind, core::FactKind::Evidence);
  EXPECT_EQ(errors->number, 3);
}

}  // namespace
