// What the probe measures is real: it scales as the machine must, and its work cannot be optimised away.
#include <gtest/gtest.h>

#include <filesystem>
#include <sstream>

#include <nlohmann/json.hpp>

#include "probe/commands.h"
#include "probe/compute_probe.h"
#include "probe/copy_probe.h"
#include "probe/memory_probe.h"
#include "probe/storage_probe.h"

namespace {

nlohmann::json run(std::initializer_list<const char*> words, int expected_code = 0) {
  std::vector<const char*> argv{"iron-lever-probe"};
  argv.insert(argv.end(), words);
  std::ostringstream out;
  std::ostringstream err;
  EXPECT_EQ(probe::runCommandLine(static_cast<int>(argv.size()), argv.data(), out, err), expected_code) << err.str();
  return expected_code == 0 ? nlohmann::json::parse(out.str()) : nlohmann::json(err.str());
}

TEST(MemoryProbe, YieldsWhatAMachineCanYield) {
  const auto readings = run({"memory", "--mib", "64", "--repeats", "3"});
  for (const char* rate : {"read_GBps", "write_GBps", "copy_GBps"}) {
    EXPECT_EQ(readings.at(rate).at("values").size(), 3U);
    EXPECT_GT(readings.at(rate).at("lowest"), 0.1) << rate;
    EXPECT_LT(readings.at(rate).at("highest"), 2000) << rate;  // more would be a cache, or no work at all
  }
  EXPECT_GT(readings.at("latency_ns").at("median"), 5);
  EXPECT_GT(readings.at("clock_GHz").at("median"), 0.1);
  EXPECT_LT(readings.at("clock_GHz").at("median"), 10);
}

TEST(ComputeProbe, DoesTheSameWorkWithAnyNumberOfThreads) {
  const auto one = probe::measureCompute({1, 1, 20});
  const auto three = probe::measureCompute({3, 1, 20});
  ASSERT_TRUE(one.ok() && three.ok());
  EXPECT_EQ(one->checksum, three->checksum);
}

TEST(ComputeProbe, TakesLongerForMoreWork) {
  const auto little = probe::measureCompute({1, 5, 10});
  const auto much = probe::measureCompute({1, 5, 80});
  EXPECT_GT(much->seconds.lowest(), 3 * little->seconds.lowest());  // eight times the work
}

TEST(StorageProbe, LeavesNothingBehind) {
  const auto folder = std::filesystem::current_path() / "storage-probe-test";
  std::filesystem::create_directory(folder);
  const auto readings = probe::measureStorage({folder, 8, 2});
  EXPECT_TRUE(std::filesystem::is_empty(folder));
  std::filesystem::remove(folder);
  if (!readings.ok()) GTEST_SKIP() << readings.error().sentence();  // a file system without direct reads
  EXPECT_GT(readings->read_GBps.lowest(), 0);
  EXPECT_GT(readings->access_us.lowest(), 0);
}

TEST(StorageProbe, SaysThatAFolderIsNotThere) {
  EXPECT_EQ(probe::measureStorage({"/no/such/folder", 8, 1}).error().kind, core::ErrorKind::Io);
}

TEST(CopyProbe, CopiesBothWaysOnAnyDeviceOrSaysThatThereIsNone) {
  const auto devices = probe::vulkanDevices();
  if (!devices.ok()) {
    EXPECT_EQ(devices.error().kind, core::ErrorKind::Missing);
    GTEST_SKIP() << devices.error().sentence();
  }
  const auto readings = probe::measureCopy({0, 16, 3});
  ASSERT_TRUE(readings.ok()) << readings.error().sentence();
  EXPECT_EQ(readings->to_device_GBps.values.size(), 3U);
  EXPECT_GT(readings->to_host_GBps.lowest(), 0);
  EXPECT_EQ(probe::measureCopy({99, 16, 1}).error().kind, core::ErrorKind::Missing);
}

TEST(Probe, RefusesOptionsThatDoNotFit) {
  EXPECT_NE(run({"memory", "--mib", "1"}, 1).get<std::string>().find("--mib 16"), std::string::npos);
  EXPECT_NE(run({"compute", "--threads=-1"}, 1).get<std::string>().find("--threads"), std::string::npos);
}

}  // namespace
