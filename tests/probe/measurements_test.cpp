// What the probe measures is real: it scales as the machine must, and its work cannot be optimised away.
#include <fcntl.h>
#include <gtest/gtest.h>
#include <signal.h>
#include <sys/wait.h>
#include <unistd.h>

#include <filesystem>
#include <fstream>
#include <numeric>
#include <sstream>

#include <nlohmann/json.hpp>

#include "probe/commands.h"
#include "probe/compute_probe.h"
#include "probe/copy_probe.h"
#include "probe/crew.h"
#include "probe/memory_probe.h"
#include "probe/memory_test.h"
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
  const auto readings = run({"memory", "--repeats", "3", "--threads", "2"});
  EXPECT_GE(readings.at("mib"), probe::leastMemoryMiB());
  for (const char* rate : {"read_GBps", "copied_GBps"}) {
    EXPECT_EQ(readings.at(rate).at("values").size(), 3U);
    EXPECT_GT(readings.at(rate).at("lowest"), 0.1) << rate;
    EXPECT_LT(readings.at(rate).at("highest"), 2000) << rate;  // more would be a cache, or no work at all
  }
  EXPECT_GT(readings.at("read_GBps").at("median"), readings.at("copied_GBps").at("median"));  // which reads and writes
  EXPECT_GT(readings.at("latency_ns").at("median"), 5);
  EXPECT_GT(readings.at("clock_GHz").at("median"), 0.1);
  EXPECT_LT(readings.at("clock_GHz").at("median"), 10);
}

TEST(MemoryProbe, HasThePagesThatWereAskedFor) {
  const auto base = run({"memory", "--repeats", "1", "--pages", "base"});
  EXPECT_EQ(base.at("huge_page_percent"), 0);
  EXPECT_EQ(base.at("page_KiB").at("values").at(0), static_cast<double>(::sysconf(_SC_PAGESIZE)) / 1024);
  std::ifstream mode("/sys/kernel/mm/transparent_hugepage/enabled");
  std::string said;
  std::getline(mode, said);
  if (said.find("[never]") != std::string::npos || said.empty()) GTEST_SKIP() << "this kernel gives no huge pages";
  EXPECT_GT(run({"memory", "--repeats", "1"}).at("huge_page_percent"), 50);
}

TEST(MemoryProbe, AddsUpEveryWord) {
  std::vector<std::uint64_t> words(1000);
  for (std::size_t i = 0; i < words.size(); ++i) words[i] = i * i;
  for (const std::size_t count : {0U, 1U, 31U, 32U, 33U, 1000U})
    EXPECT_EQ(probe::sumOf(words.data(), count),
              std::accumulate(words.begin(), words.begin() + count, std::uint64_t{0}));
}

TEST(Crew, SharesWorkAgainAndAgain) {
  for (const int threads : {1, 2, 5}) {
    probe::Crew crew(threads);
    std::vector<int> done(static_cast<std::size_t>(threads));
    for (int round = 0; round < 200; ++round)
      EXPECT_GE(crew.secondsOf([&](int which) { ++done[static_cast<std::size_t>(which)]; }), 0);
    EXPECT_EQ(done, std::vector<int>(static_cast<std::size_t>(threads), 200));
  }
}

TEST(MemoryTest, ToldPlacesApartFirst) {
  std::vector<std::uint64_t> words(4096);
  for (int round = 0; round < 14; ++round) {
    probe::fillPattern(words, round, 100);
    EXPECT_EQ(probe::wrongWords(words, round, 100), 0U);
    words[77] ^= 1U << (round % 32);
    EXPECT_EQ(probe::wrongWords(words, round, 100), 1U) << round;
  }
  // A line that is dead lets two places answer as one.
  probe::fillPattern(words, 0, 0);
  std::copy(words.begin(), words.begin() + 512, words.begin() + 512);
  EXPECT_EQ(probe::wrongWords(words, 0, 0), 512U);
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
  const auto readings = probe::measureStorage({folder.string(), 8, 2});
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

TEST(StorageProbe, TakesNoMemoryForADrive) {
  if (std::filesystem::exists("/dev/shm")) {
    EXPECT_NE(run({"storage", "--folder", "/dev/shm", "--mib", "8"}, 1).get<std::string>().find("lies in memory"),
              std::string::npos);
  }
}

TEST(Probe, RefusesOptionsThatDoNotFit) {
  const auto refused = [](std::initializer_list<const char*> words) { return run(words, 1).get<std::string>(); };
  const std::string least = std::to_string(probe::leastMemoryMiB());
  EXPECT_NE(refused({"memory", "--mib", "1"}).find("--mib " + least), std::string::npos);
  EXPECT_NE(refused({"memory-test", "--mib", "1"}).find("--mib " + least), std::string::npos);
  for (const char* seconds : {"nan", "0", "inf", "1e300"}) {
    EXPECT_NE(refused({"memory-test", "--seconds", seconds}).find("--seconds above 0"), std::string::npos) << seconds;
    EXPECT_NE(refused({"scene", "--seconds", seconds}).find("--seconds above 0"), std::string::npos) << seconds;
  }
  EXPECT_NE(refused({"compute", "--threads=-1"}).find("--threads"), std::string::npos);
}

// The stretch of a process's memory that is as large as its test.
std::pair<std::uint64_t, std::uint64_t> testedMemory(pid_t process, std::uint64_t bytes) {
  std::ifstream maps("/proc/" + std::to_string(process) + "/maps");
  constexpr std::uint64_t kMore = 16U << 20U;
  for (std::string line; std::getline(maps, line);) {
    std::uint64_t begin = 0;
    std::uint64_t end = 0;
    char dash = 0;
    std::string rights;
    if (!(std::istringstream(line) >> std::hex >> begin >> dash >> end >> rights) || !rights.starts_with("rw"))
      continue;
    if (end - begin >= bytes && end - begin < bytes + kMore) return {begin, end};
  }
  return {0, 0};
}

TEST(MemoryTest, FindsBitsThatAreFlippedFromOutside) {
  const std::string program = std::filesystem::read_symlink("/proc/self/exe").parent_path() / "iron-lever-probe";
  int pipe_ends[2];
  ASSERT_EQ(::pipe(pipe_ends), 0);
  const std::string mib = std::to_string(probe::leastMemoryMiB());
  const pid_t process = ::fork();
  if (process == 0) {
    ::dup2(pipe_ends[1], STDERR_FILENO);
    ::execl(program.c_str(), program.c_str(), "memory-test", "--mib", mib.c_str(), "--seconds", "3", nullptr);
    ::_exit(9);
  }
  ::close(pipe_ends[1]);
  int status = 0;
  int flips = 0;
  while (::waitpid(process, &status, WNOHANG) == 0) {
    const auto [begin, end] = testedMemory(process, static_cast<std::uint64_t>(probe::leastMemoryMiB()) << 20U);
    const int memory = ::open(("/proc/" + std::to_string(process) + "/mem").c_str(), O_RDWR | O_CLOEXEC);
    unsigned char byte = 0;
    // Each time another one: the same bit flipped twice before it is looked at, on a busy machine, is as it was.
    const auto place = static_cast<off_t>(begin + (end - begin) / 3 + static_cast<std::uint64_t>(flips));
    if (end > begin && ::pread(memory, &byte, 1, place) == 1) {
      byte ^= 4;
      flips += ::pwrite(memory, &byte, 1, place) == 1;
    }
    ::close(memory);
    ::usleep(20000);
  }
  char said[400] = {};
  (void)!::read(pipe_ends[0], said, sizeof said - 1);
  ::close(pipe_ends[0]);
  if (flips == 0) GTEST_SKIP() << "this machine lets nobody write another's memory";
  EXPECT_EQ(WEXITSTATUS(status), 1);
  EXPECT_NE(std::string(said).find("came back different from what was written"), std::string::npos) << said;
}

TEST(StorageProbe, LeavesNothingWhenItIsKilled) {
  const std::string program = std::filesystem::read_symlink("/proc/self/exe").parent_path() / "iron-lever-probe";
  const auto folder = std::filesystem::current_path() / "storage-probe-killed";
  std::filesystem::create_directory(folder);
  for (const int after_ms : {20, 100, 300}) {
    const pid_t process = ::fork();
    if (process == 0) {
      ::execl(program.c_str(), program.c_str(), "storage", "--folder", folder.c_str(), "--mib", "512", nullptr);
      ::_exit(9);
    }
    ::usleep(static_cast<useconds_t>(after_ms) * 1000);
    ::kill(process, SIGKILL);
    ::waitpid(process, nullptr, 0);
    EXPECT_TRUE(std::filesystem::is_empty(folder));
  }
  std::filesystem::remove(folder);
}

}  // namespace
