// Between which levels a bench could be moved.
#include "bench/offers.h"

#include <gtest/gtest.h>

#include "bench/local_bench.h"
#include "core/study/expected_reading.h"
#include "support/test_folder.h"

namespace {

class Offers : public testing::Test {
 protected:
  void put(const std::string& path, const std::string& text) const {
    const std::filesystem::path place = machine_ / path;
    std::filesystem::create_directories(place.parent_path());
    std::ofstream(place) << text;
  }
  [[nodiscard]] bench::Offer offer(const char* kind) const {
    const bench::LocalBench here(machine_.path());
    return bench::benchNow(here).offers.at(kind);
  }
  static std::string names(const bench::Offer& offer) {
    std::string all;
    for (const core::Level& level : offer.levels) all += level.name + ";";
    return all;
  }
  support::TestFolder machine_;
};

TEST_F(Offers, OfAFileThatListsItsChoices) {
  put("sys/kernel/mm/transparent_hugepage/enabled", "always [madvise] never\n");
  const bench::Offer pages = offer("huge_pages");
  EXPECT_EQ(pages.now, "madvise");
  EXPECT_EQ(names(pages), "never;madvise;always;");
  EXPECT_TRUE(pages.is_switched);
  EXPECT_EQ(pages.levelNow(), 1U);
  EXPECT_EQ(pages.levels[2].writes,
            (std::vector<core::SettingWrite>{{"/sys/kernel/mm/transparent_hugepage/enabled", "always"}}));
}

TEST_F(Offers, OfGovernorsOrElseOfBoost) {
  const std::string cpus = "sys/devices/system/cpu/";
  put(cpus + "cpufreq/policy0/scaling_governor", "schedutil\n");
  put(cpus + "cpufreq/policy0/scaling_available_governors", "performance schedutil userspace powersave\n");
  EXPECT_EQ(names(offer("governor")), "powersave;schedutil;performance;");
  put(cpus + "cpufreq/policy0/scaling_available_governors", "performance\n");
  EXPECT_EQ(names(offer("governor")), "");
  put(cpus + "cpufreq/boost", "1\n");
  const bench::Offer boost = offer("governor");
  EXPECT_EQ(names(boost), "boost off;boost on;");
  EXPECT_EQ(boost.now, "boost on");
}

TEST_F(Offers, OfCoresByCoreAndNeverTheFirst) {
  const std::string cpus = "sys/devices/system/cpu/";
  for (int n = 0; n < 8; ++n) {  // two threads a core: 0 and 4 share one
    const std::string topology = cpus + "cpu" + std::to_string(n) + "/topology/";
    put(topology + "core_id", std::to_string(n % 4));
    put(topology + "physical_package_id", "0");
  }
  put(cpus + "offline", "\n");
  const bench::Offer cores = offer("core_count");
  EXPECT_EQ(names(cores), "1 core;2 cores;4 cores;");
  EXPECT_EQ(cores.now, "4 cores");
  std::string on;
  for (const core::SettingWrite& write : cores.levels[1].writes) {
    EXPECT_EQ(write.path.find("/cpu0/"), std::string::npos);
    on += write.value;
  }
  EXPECT_EQ(on, "1001100");  // of processors 1 to 7: those of the first two cores
  put(cpus + "offline", "3\n");
  EXPECT_EQ(names(offer("core_count")), "");  // which core it belongs to is not known
}

TEST_F(Offers, OfAMachineThatShowsNothing) {
  for (const core::VariableKind& kind : core::variableKinds()) {
    const bench::Offer nothing = offer(std::string(kind.id).c_str());
    EXPECT_TRUE(nothing.levels.empty() && nothing.now.empty()) << kind.id;
  }
}

// What is offered must be what a capture then recognises.
TEST_F(Offers, HaveNamesThatLetExpectAReading) {
  const bench::LocalBench node(std::string(IRON_LEVER_FIXTURES) + "/dome-node/gen4");
  const bench::BenchNow now = bench::benchNow(node);
  EXPECT_EQ(names(now.offers.at("memory_speed")), "4800 MT/s;6000 MT/s;");
  EXPECT_EQ(names(now.offers.at("pcie_link")),
            "Gen 4 x1;Gen 4 x2;Gen 1 x16;Gen 4 x4;Gen 2 x16;Gen 3 x16;Gen 4 x8;Gen 4 x16;");
  for (const char* kind : {"pcie_generation", "pcie_width", "pcie_link", "pcie_links", "resizable_bar", "memory_speed",
                           "smt", "aspm", "huge_pages"}) {
    const bench::Offer& offer = now.offers.at(kind);
    EXPECT_GE(offer.levels.size(), 2U) << kind;
    EXPECT_TRUE(offer.levelNow()) << kind << ": " << offer.now;
    for (const core::Level& level : offer.levels)
      EXPECT_TRUE(core::proposedReading(kind, level.name)) << kind << ": " << level.name;
  }
}

}  // namespace
