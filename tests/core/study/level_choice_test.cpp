// What a kind brings, and which levels a press puts in or takes out.
#include "core/study/level_choice.h"

#include <gtest/gtest.h>

namespace {

using core::Level;
using core::Study;

const std::vector<Level> kOffered{{.name = "1"}, {.name = "2"}, {.name = "3"}, {.name = "4"}};

Study of(core::Shape shape, std::vector<Level> levels) {
  Study study;
  study.shape = shape;
  study.variable().levels = std::move(levels);
  return study;
}

std::string names(const Study& study) {
  std::string all;
  for (const Level& level : study.variable().levels) all += level.name + ";";
  return all;
}

Study pressed(const Study& study, std::size_t level, const std::string& before = "") {
  return core::withOffered(study, 0, kOffered, level, before);
}

TEST(LevelChoice, ProposesTheLevelAsItIsAndTheNext) {
  const auto pair = [](std::optional<std::size_t> now) {
    const auto two = core::likelyPair(kOffered, now);
    return two[0].name + two[1].name;
  };
  EXPECT_EQ(pair(0), "12");
  EXPECT_EQ(pair(3), "34");  // nothing is above it
  EXPECT_EQ(pair(std::nullopt), "34");
  EXPECT_TRUE(core::likelyPair(std::span(kOffered).first(1), 0).empty());
}

TEST(LevelChoice, KeepsOfAPairTheOneThatWasPressedBefore) {
  const Study pair = of(core::Shape::Pair, {{.name = "3"}, {.name = "4"}});
  EXPECT_EQ(names(pressed(pressed(pair, 0), 2, "1")), "1;3;");
  EXPECT_EQ(names(pressed(pressed(pair, 0), 1, "1")), "1;2;");
  const Study empty = of(core::Shape::Pair, {{}, {}});
  EXPECT_EQ(names(pressed(empty, 1)), "2;;");  // the other is still to come
  EXPECT_EQ(names(pressed(pressed(empty, 1), 0, "2")), "1;2;");
}

TEST(LevelChoice, LosesNoLevelOfALadderThatAPersonWroteNorItsBaseline) {
  Study ladder = of(core::Shape::Ladder, {{.name = "2"}, {.name = "3"}, {.name = "mine"}});
  ladder.variable().baseline = 1;
  const Study more = pressed(ladder, 0);
  EXPECT_EQ(names(more), "1;2;3;mine;");
  EXPECT_EQ(more.variable().baseline, 2U);  // still "3"
  ladder.variable().baseline = 0;
  EXPECT_EQ(pressed(ladder, 0).variable().baseline, 0U);  // the first stays the first
  EXPECT_EQ(names(pressed(of(core::Shape::Ladder, {{.name = "1"}, {.name = "2"}}), 0)), "1;2;");
}

TEST(LevelChoice, LeavesLevelsAloneThatConfigurationsName) {
  Study chain = of(core::Shape::Chain, {{.name = "1"}, {.name = "2"}});
  chain.configurations = {{"a", {0}}, {"b", {1}}};
  EXPECT_EQ(pressed(chain, 2), chain);
}

TEST(LevelChoice, TakesOfAKindWhatNobodyHasSaidOtherwise) {
  const auto* speed = core::findVariableKind("memory_speed");
  const auto* smt = core::findVariableKind("smt");
  const std::vector<Level> two{{.name = "4800 MT/s"}, {.name = "6000 MT/s"}};
  Study study = core::withKind({}, 0, speed, two, {});
  EXPECT_EQ(study.variable().name, "memory speed");
  EXPECT_EQ(study.variable().levels, two);
  EXPECT_EQ(study.stability_command[1], "memory-test");
  EXPECT_EQ(study.plan.guess.flip_minutes, core::usualFlipMinutes(*speed));
  const Study other = core::withKind(study, 0, smt, {}, two);  // all of it gives way
  EXPECT_EQ(other.variable().name, "two threads a core");
  EXPECT_EQ(other.variable().levels, std::vector<Level>(2));
  EXPECT_TRUE(other.stability_command.empty());
  EXPECT_EQ(other.plan.guess.flip_minutes, core::usualFlipMinutes(*smt));
  study.variable().name = "profile";
  study.variable().levels[0].name = "mine";
  study.measure_command = {"own-tool"};
  study.plan.guess.flip_minutes = 12;
  const Study kept = core::withKind(study, 0, smt, two, two);
  EXPECT_EQ(kept.variable().name, "profile");
  EXPECT_EQ(kept.variable().levels[0].name, "mine");
  EXPECT_EQ(kept.measure_command, core::Command{"own-tool"});
  EXPECT_EQ(kept.plan.guess.flip_minutes, 12);
  EXPECT_EQ(kept.variable().kind, "smt");
  EXPECT_TRUE(core::withKind(kept, 0, nullptr, {}, {}).variable().kind.empty());
}

}  // namespace
