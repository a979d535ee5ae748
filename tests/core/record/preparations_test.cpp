// What a person sees to before the first pass.
#include "core/record/preparations.h"

#include <gtest/gtest.h>

#include "support/studies.h"

namespace {

core::Study byHand() {
  core::Study study = support::timedStudyOf({"true"}, 5);
  study.variable().kind = "memory_speed";
  return study;
}

TEST(Preparations, AreWhoFlipsAndWhereTheSettingIsFound) {
  core::Study study = byHand();
  EXPECT_EQ(core::preparationsFor(study),
            (std::vector<std::string>{"Somebody at the bench before each of 2 visits, to flip it.",
                                      "Find the setting in the firmware's menu, and write its path beside each level.",
                                      "Test each level for errors before it counts, or let the sheet do it.",
                                      "Switch off updates, and whatever else may start by itself while passes run."}));
  for (core::Level& level : study.variable().levels) level.menu_path = "Advanced > Memory";
  study.stability_command = {"iron-lever-probe", "memory-test"};
  EXPECT_EQ(core::preparationsFor(study).size(), 2U);
}

TEST(Preparations, NameTheRestartsOfAnUnattendedSheet) {
  core::Study study = byHand();
  for (core::Level& level : study.variable().levels) level.set_command = {"firmware-tool", level.name};
  EXPECT_EQ(core::preparationsFor(study).front(),
            "Flips restart this machine: let it log in and go on by itself (iron-lever-cli resume --install).");
  study.machine = "bench/machine";  // which is none to log in to
  EXPECT_EQ(core::preparationsFor(study).front(), "Nobody has to stay: the program flips by itself.");
  study.machine.clear();
  study.variable().kind = "governor";
  EXPECT_EQ(core::preparationsFor(study).front(), "Nobody has to stay: the program flips by itself.");
  study.cases[0].is_played = true;
  EXPECT_EQ(core::preparationsFor(study).front(), "The program flips by itself.") << "but somebody has to play";
}

// Modules are put in by hand: no menu has them. And of two variables only one may be a person's.
TEST(Preparations, SendNobodyToAMenuForAPartNorToTheBenchForNothing) {
  core::Study study = byHand();
  study.variable().kind = "memory_capacity";
  for (const std::string& one : core::preparationsFor(study)) EXPECT_EQ(one.find("menu"), std::string::npos) << one;
  core::Study crossed = support::crossedOf(3);
  crossed.variables[0].kind = "pcie_generation";
  crossed.variables[1].kind = "governor";
  for (core::Level& level : crossed.variables[1].levels) level.set_command = {"set-governor", level.name};
  const std::string who = core::preparationsFor(crossed).front();
  EXPECT_TRUE(who.starts_with("Somebody at the bench before ") && who.ends_with(" of 12 visits, to flip it.")) << who;
  EXPECT_EQ(who.find("each"), std::string::npos) << who;
}

TEST(Preparations, CountWhatPeoplePlayAndReadOff) {
  core::Study study = byHand();
  study.cases[0].is_played = true;
  core::Case typed = study.cases[0];
  typed.is_played = false;
  typed.source = core::ResultSource::ByHand;
  study.cases.push_back(typed);
  study.plan.warm_ups = 0;
  const auto all = core::preparationsFor(study);
  EXPECT_EQ(all[1], "One player for 10 passes, who plays the same route each time.");
  EXPECT_EQ(all[2], "Somebody who reads off 10 results.");
}

}  // namespace
