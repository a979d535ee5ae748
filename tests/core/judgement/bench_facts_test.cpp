#include <gtest/gtest.h>

#include "core/findings/derived_studies.h"
#include "core/judgement/judgement.h"
#include "core/machine/comparison.h"
#include "core/machine/difference_sentences.h"
#include "core/machine/stated_fact.h"
#include "core/record/unreachable.h"
#include "support/studies.h"

namespace {

core::Capture stating(const std::string& id, const std::string& value) {
  core::Capture capture;
  const auto fact = core::statedFact(id, value, "T. Varga");
  EXPECT_TRUE(fact.ok()) << fact.error().sentence();
  if (fact) capture.put(*fact);
  return capture;
}

core::Comparison compared(const core::Capture& a, const core::Capture& b, const char* kind = "memory_speed") {
  return core::compareCaptures(a, b, {core::findVariableKind(kind), "", {}, "a", "b"});
}

TEST(StatedFacts, AreComparedWhereBothLevelsHaveThem) {
  const auto differs = compared(stating("cooler", "tower"), stating("cooler", "flat"));
  ASSERT_EQ(differs.must_not.size(), 1U);
  EXPECT_EQ(core::differenceSentences(differs.must_not)[0], "cooler (stated) changed from tower to flat");
  EXPECT_TRUE(compared(stating("cooler", "tower"), {}).must_not.empty());  // nobody said: not known to be different
  const auto cable = compared(stating("cable", "0.8 m"), stating("cable", "2 m"), "external_link");
  EXPECT_EQ(cable.comes_along.size(), 1U);
}

TEST(StatedFacts, OfConditionsAreShownAndNeverHeldAgainstAPair) {
  const auto warmer = compared(stating("room_temperature", "21,5"), stating("room_temperature", "24"));
  EXPECT_TRUE(warmer.must_not.empty());
  ASSERT_EQ(warmer.evidence.size(), 1U);
  EXPECT_EQ(warmer.evidence[0].from.number, 21.5);  // a decimal comma is a decimal comma
}

TEST(StatedFacts, AreRefusedWithARemedy) {
  EXPECT_EQ(core::statedFact("room_temperature", "warm", "x").error().kind, core::ErrorKind::Malformed);
  EXPECT_EQ(core::statedFact("mood", "good", "x").error().kind, core::ErrorKind::OutOfRange);
}

TEST(NextLowerLevels, FollowTheNumberInTheName) {
  const auto lower = [](const char* kind, const char* name) { return core::nextLowerLevel(kind, name).value_or("-"); };
  EXPECT_EQ(lower("pcie_generation", "Gen 5"), "Gen 4");
  EXPECT_EQ(lower("pcie_width", "x16"), "x8");
  EXPECT_EQ(lower("memory_speed", "6000 MT/s"), "5600 MT/s");
  EXPECT_EQ(lower("memory_speed", "profile at 6150"), "profile at 6000");
  EXPECT_EQ(lower("core_count", "8 cores"), "7 cores");
  EXPECT_EQ(lower("pcie_generation", "Gen 1"), "-");
  EXPECT_EQ(lower("memory_speed", "the fast one"), "-");
  EXPECT_EQ(lower("governor", "level 3"), "-");
  EXPECT_EQ(lower("pcie_width", "x99999999999999999999"), "-");
}

TEST(LevelsThatCannotBeReached, LeadToTheNextLowerOneUnlessItIsAskedAlready) {
  core::Study study = support::studyOf({"true"});  // 4800 and 6000 MT/s
  study.variable().kind = "memory_speed";
  core::Level& level = study.variable().levels[1];
  level.set_command = {"set", "6000"};
  level.writes = {{"/proc/sys/vm/swappiness", "1"}};
  level.menu_path = "Memory > Profile 1";
  const core::Unreachable missed{core::ConfigurationId::Changed, "it does not start"};
  EXPECT_EQ(core::lowerLevelFor(study, missed), "5600 MT/s");
  const auto lower = core::withLowerLevel(study, missed);
  ASSERT_TRUE(lower);
  const core::Level& asked = lower->variable().levels[1];
  EXPECT_EQ(asked.name, "5600 MT/s");
  EXPECT_TRUE(asked.set_command.empty() && asked.writes.empty() && asked.menu_path.empty());
  EXPECT_EQ(lower->variable().levels[0], study.variable().levels[0]);
  EXPECT_EQ(core::lowerLevelFor(study, {core::ConfigurationId::Baseline, "neither"}), "4400 MT/s");
  level.name = "5200 MT/s";  // the next lower one is the other level: there is nothing left to compare
  EXPECT_EQ(core::lowerLevelFor(study, missed), std::nullopt);
  EXPECT_FALSE(core::withLowerLevel(study, missed));
  core::Study ladder = support::ladderOf();
  ladder.variable().kind = "pcie_generation";
  EXPECT_EQ(core::lowerLevelFor(ladder, missed), std::nullopt) << "a ladder has its lower levels";
}

TEST(LevelsThatAreLeftOpen, LieBelowTheLowestAndBecomeThePairOfANextStudy) {
  core::Study ladder = support::ladderOf();
  ladder.variable().kind = "pcie_generation";
  ladder.variable().levels.resize(2);
  ladder.variable().levels[0].name = "Gen 3";
  ladder.variable().levels[0].set_command = {"set", "3"};
  ladder.variable().levels[1].name = "Gen 5";  // the step between is no question of the ladder's, the one below is
  EXPECT_EQ(core::levelLeftOpen(ladder), "Gen 2");
  const auto next = core::askedFurtherDown(ladder);
  ASSERT_TRUE(next);
  EXPECT_EQ(next->shape, core::Shape::Pair);
  ASSERT_EQ(next->variable().levels.size(), 2U);
  EXPECT_EQ(next->variable().levels[0], ladder.variable().levels[0]);
  EXPECT_EQ(next->variable().levels[1].name, "Gen 2");
  EXPECT_TRUE(next->variable().levels[1].set_command.empty()) << "how it is set is for a person to say";
  ladder.variable().levels[1].name = "auto";
  EXPECT_EQ(core::levelLeftOpen(ladder), std::nullopt) << "nobody can tell which is the lowest";
  core::Study null_study = support::studyOf({"true"});
  null_study.variable().kind = "memory_speed";
  EXPECT_EQ(core::levelLeftOpen(null_study), "4400 MT/s");
  null_study.is_null = true;
  EXPECT_EQ(core::levelLeftOpen(null_study), std::nullopt);
}

TEST(LevelsThatCannotBeReached, AreTheAnswerUntilThereIsAResult) {
  const core::Study study = support::studyOf({"true"});
  core::Record record;
  record.unreachable = {{core::ConfigurationId::Changed, "three restarts came up at 4800 MT/s"}};
  const core::Judgement judged = core::judgementOf(study, record);
  EXPECT_EQ(judged.claim.sentence(),
            "On Dome node 3, moving the memory speed from 4800 MT/s to 6000 MT/s changes average FPS over Ring pass, "
            "4K dome by … 6000 MT/s is not reachable here: three restarts came up at 4800 MT/s");
  EXPECT_FALSE(judged.claim.has_result);
}

TEST(Settings, AreTheKernelsOwnOrTheStudyIsNotReady) {
  const auto problemOf = [](const char* path) {
    core::Study study = support::studyOf({"true", "{log}"});
    study.variable().levels[0].writes = {{path, "performance"}};
    const auto problems = core::problemsOf(study);
    return problems.empty() ? std::string() : problems.front().what;
  };
  EXPECT_EQ(problemOf("/sys/devices/system/cpu/cpufreq/policy*/scaling_governor"), "");
  EXPECT_EQ(problemOf("/proc/sys/vm/swappiness"), "");
  for (const char* path : {"/etc/passwd", "/sys/../etc/passwd", "/sys/x/..", "sys/x", "/sys/x/", "/proc/1/oom_adj"})
    EXPECT_NE(problemOf(path), "") << path;
}

TEST(Acts, ToBeApprovedHoldCommandsMeasurementsAndSettings) {
  core::Study study = support::studyOf({"ring", "{log}"});
  study.measure_command = {"iron-lever-probe", "memory"};
  study.variable().levels[0].prefix = {"taskset", "-c", "0"};
  study.variable().levels[1].writes = {{"/proc/sys/vm/swappiness", "10"}};
  std::vector<std::string> texts;
  for (const core::ExactCommand& act : core::actsOf(study)) texts.push_back(core::displayText(act));
  EXPECT_EQ(texts,
            (std::vector<std::string>{"taskset -c 0 iron-lever-probe memory", "taskset -c 0 ring {log}",
                                      "iron-lever-probe memory", "ring {log}", "write 10 to /proc/sys/vm/swappiness"}));
}

}  // namespace
