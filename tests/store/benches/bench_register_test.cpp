#include "store/benches/bench_register.h"

#include <gtest/gtest.h>

#include <fstream>

#include "store/benches/bench_names.h"
#include "store/json/measurement_json.h"
#include "store/logs/json_result.h"
#include "support/test_folder.h"

namespace {

core::Capture kernelAt(std::int64_t taken_ms, const std::string& release) {
  core::Capture capture;
  capture.taken_ms = taken_ms;
  core::Fact fact;
  fact.name = "kernel/osrelease";
  fact.value = release;
  capture.put(fact);
  fact.name = "sensors/hwmon/temp1";
  fact.kind = core::FactKind::Volatile;
  fact.value = std::to_string(taken_ms);
  capture.put(fact);
  return capture;
}

class Registers : public testing::Test {
 protected:
  support::TestFolder folder_;
  std::string path_ = folder_ / "deep/down/benches.sqlite";
  store::BenchRegister benches_{path_};
};

TEST_F(Registers, TellWhatABenchWasWhen) {
  EXPECT_TRUE(benches_.benches()->empty());
  for (const auto& [ms, release] : {std::pair{100, "6.12.1"}, {200, "6.12.1"}, {300, "6.12.9"}, {400, "6.12.9"}})
    ASSERT_TRUE(benches_.add("Dome node 3", kernelAt(ms, release)).ok());
  ASSERT_TRUE(benches_.add("Dome node 1", kernelAt(250, "6.12.1")).ok());
  const auto entries = benches_.entries("Dome node 3");
  ASSERT_EQ(entries->size(), 2U);  // what is in motion makes no entry
  EXPECT_EQ(entries->at(0).capture.taken_ms, 100);
  EXPECT_EQ(entries->at(0).until_ms, 200);
  EXPECT_EQ(entries->at(1).capture.text("kernel/osrelease"), "6.12.9");
  const auto all = benches_.benches();
  ASSERT_EQ(all->size(), 2U);
  EXPECT_EQ(all->at(1).name, "Dome node 3");
  EXPECT_EQ(all->at(1).last_ms, 400);
}

TEST_F(Registers, KeepMenuPathsByBenchKindAndLevel) {
  EXPECT_EQ(*benches_.menuPath("Dome node 3", "memory_speed", "6000 MT/s"), "");
  ASSERT_TRUE(benches_.setMenuPath("Dome node 3", "memory_speed", "6000 MT/s", "Advanced > Memory").ok());
  ASSERT_TRUE(benches_.setMenuPath("Dome node 3", "memory_speed", "6000 MT/s", "Tweaks > Memory").ok());
  EXPECT_EQ(*benches_.menuPath("Dome node 3", "memory_speed", "6000 MT/s"), "Tweaks > Memory");
  EXPECT_EQ(*benches_.menuPath("Dome node 1", "memory_speed", "6000 MT/s"), "");
}

// A study keeps the name with which it was made, also when its bench, or what stands in for it, is called otherwise.
TEST_F(Registers, KnowABenchByAnyNameThatItHad) {
  const store::BenchRegister::Paper lent{0, "lent", "memory kit 2", ""};
  ASSERT_TRUE(benches_.setMenuPath("Dome node 3", "memory_speed", "6000 MT/s", "Tweaks > Memory").ok());
  ASSERT_TRUE(benches_.addPaper("Dome node 3 (stand-in)", lent).ok());
  store::BenchNames names(path_);
  ASSERT_TRUE(names.rename("Dome node 3", "Dome node 5").ok());
  ASSERT_TRUE(names.rename("Dome node 5", "Dome node 7").ok());
  ASSERT_TRUE(benches_.setMenuPath("Dome node 3", "memory_speed", "4800 MT/s", "Advanced > Memory").ok());
  ASSERT_TRUE(benches_.add("Dome node 5", kernelAt(100, "6.12.1")).ok());
  ASSERT_TRUE(benches_.addPaper("Dome node 5 (stand-in)", lent).ok());
  for (const char* name : {"Dome node 3", "Dome node 5", "Dome node 7"}) {
    EXPECT_EQ(*benches_.menuPath(name, "memory_speed", "6000 MT/s"), "Tweaks > Memory") << name;
    EXPECT_EQ(*benches_.menuPath(name, "memory_speed", "4800 MT/s"), "Advanced > Memory") << name;
    EXPECT_TRUE(benches_.latest(name)->has_value()) << name;
    EXPECT_TRUE(benches_.papers(name)->empty()) << name;
    EXPECT_EQ(benches_.papers(store::standInFor(name))->size(), 2U) << name;
  }
  ASSERT_EQ(benches_.benches()->size(), 1U);
  EXPECT_EQ(benches_.benches()->front().name, "Dome node 7");
}

TEST_F(Registers, RememberHowAWorkloadIsRunByBench) {
  core::Case ring;
  ring.workload = "Ring pass";
  ring.command = {"ring", "--out", "{log}"};
  core::Case typed;
  typed.workload = "Nebula volume";
  typed.source = core::ResultSource::ByHand;
  typed.metric.unit = "points";
  ASSERT_TRUE(benches_.addWorkloads("Dome node 3", {ring, typed}, 1000).ok());
  ring.command = {"ring", "--quiet", "--out", "{log}"};  // run otherwise since
  ASSERT_TRUE(benches_.addWorkloads("Dome node 3", {ring}, 2000).ok());
  const auto known = benches_.workloads("Dome node 3");
  ASSERT_TRUE(known.ok());
  EXPECT_EQ(*known, (std::vector<core::Case>{ring, typed}));  // the latest first
  EXPECT_TRUE(benches_.workloads("Dome node 1")->empty());
}

TEST_F(Registers, ThatCannotBeReadSayWhich) {
  std::filesystem::create_directories(folder_ / "deep/down");
  std::ofstream(path_) << "this is not a database, whatever its name says; it is long enough to be taken for one";
  const auto benches = benches_.benches();
  ASSERT_FALSE(benches.ok());
  EXPECT_NE(benches.error().sentence().find(path_), std::string::npos);
}

TEST(Measurements, ComeBackWithoutLoss) {
  const core::VisitMeasurement measured{
      0, core::CaptureMoment::Start, {{"read_GBps", {{61.25, 0.1 + 0.2}}}, {"latency_ns", {{84}}}}, {}};
  const auto again = store::measurementFromJson(store::measurementToJson(measured), "study");
  ASSERT_TRUE(again.ok());
  EXPECT_EQ(again->find("read_GBps")->values, measured.readings[0].measured.values);
  const auto failed = store::measurementFromJson(store::measurementToJson({0, {}, {}, "no device"}), "study");
  EXPECT_EQ(failed->failure, "no device");
  EXPECT_EQ(store::measurementFromJson("[1]", "study").error().kind, core::ErrorKind::DamagedFile);
}

}  // namespace
