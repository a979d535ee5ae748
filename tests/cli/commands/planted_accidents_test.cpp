// The real command line on a simulated bench in whose way to its levels an accident is planted: what the program says
// must name it, and nothing else may stop the claim.
#include "cli/planted_bench.h"

namespace {

using nlohmann::json;

using support::Outcome;

class PlantedAccidents : public support::PlantedBench {};

TEST_F(PlantedAccidents, LevelsThatTheMenuNamesTheOtherWayRound) {
  makeBench("link", {{"link_gts", 8}}, {{"link_gts", 16}}, {{"variables", {{"link", {{"swapped", true}}}}}});
  runAllTheSame(study("pcie_generation", "Gen 3", "Gen 4"));
  const json found = findings();
  EXPECT_EQ(stopsIn(found), Ids{"levels_swapped"});
  EXPECT_TRUE(found["proof"]["levels_swapped"]);
  EXPECT_NE(cli({"findings", "s"}).out.find("not yet a single-variable comparison"), std::string::npos);
  // A person may take it upon themselves, by the id that is printed.
  EXPECT_NE(cli({"accept", "s", "no such doubt", "why"}).err.find("Use one of: levels_swapped"), std::string::npos);
  EXPECT_EQ(cli({"accept", "s", "levels_swapped", "the menu is known to be wrong"}).code, 0);
  EXPECT_NE(cli({"findings", "s"}).out.find("Accepted: the menu is known to be wrong"), std::string::npos);
}

TEST_F(PlantedAccidents, LevelsThatAreCalledWhatTheyAreNot) {
  makeBench("link", {{"link_gts", 8}}, {{"link_gts", 16}});
  runAllTheSame(study("pcie_generation", "Gen 4", "Gen 5"));
  EXPECT_EQ(stopsIn(findings()), Ids{"names_disagree"});
  EXPECT_EQ(sentenceOf(findings(), "names_disagree"),
            "Neither level is what it is called: Gen 4 must read 16.0 GT/s, but 8.0 GT/s was read; Gen 5 must read "
            "32.0 GT/s, but 16.0 GT/s was read");
}

TEST_F(PlantedAccidents, AFlipThatWasNotPerformed) {
  // By hand: the person sets the level in the firmware, and forgets to restart before the third visit.
  makeBench("memory", {{"memory_mts", 4800}}, {{"memory_mts", 6000}}, {{"lost_restarts", {2}}});
  make(study("memory_speed", "4800 MT/s", "6000 MT/s", true));
  const auto flip = [&](const char* level) {
    EXPECT_EQ(run("iron-lever-simbench", {"set", "--state", "bench", std::string("memory=") + level, "--reboot"}).code,
              0);
  };
  const auto visit = [&] { return cli({"run", "s", "--approve", "--quiet"}); };
  // Whoever flips by hand is told how, where, and what to mind.
  const Outcome first = visit();
  EXPECT_EQ(first.code, 4) << first.err;  // it waits for a person
  EXPECT_NE(first.out.find("Now bring Dome node 3 to 6000 MT/s by hand:"), std::string::npos) << first.out;
  EXPECT_NE(first.out.find("Restart into the firmware menu."), std::string::npos);
  EXPECT_NE(first.out.find("Never above the voltage printed on the module."), std::string::npos);
  flip("b");
  EXPECT_NE(visit().out.find("Restart, and set 6000 MT/s again: only then do visit 2 and the next count as two"),
            std::string::npos);
  flip("b");  // this restart is lost
  visit();
  flip("a");
  visit();
  const json found = findings();
  EXPECT_EQ(stopsIn(found), Ids{});
  EXPECT_EQ(sentenceOf(found, "flip_not_performed/visit 3"),
            "The flip to visit 3 was not performed: the machine has not restarted since visit 2. The two count as one "
            "visit");
  EXPECT_EQ(found["cases"][0]["effect"]["estimator"], "passes");  // one visit at a level shows no flips
  EXPECT_EQ(found["cases"][0]["counted_changed"], 4);
}

TEST_F(PlantedAccidents, AConditionThatMovesWithANewFirmware) {
  makeBench("firmware", {{"firmware_version", "D2-1.14"}},
            {{"firmware_version", "D2-1.15"}, {"memory_mts", 4800}, {"swappiness", 10}});
  core::Study asked = study("firmware_version", "D2-1.14", "D2-1.15");
  runStudy(asked);
  const json found = findings();
  EXPECT_EQ(stopsIn(found), Ids{"held/memory/configured_speed"});
  EXPECT_EQ(found["proof"]["held_and_differs"][0], "memory speed changed from 6000 MT/s to 4800 MT/s");
  EXPECT_EQ(found["proof"]["came_along"], json({"swappiness dropped from 60 to 10"}));
  EXPECT_FALSE(found["proof"]["only_variable_changed"]);
  // Asked again with the condition released, it is no stop, and stands in the report with its reason.
  asked.released = {{"memory/configured_speed", "1.15 resets the profile; users get it so"}};
  folder_.write("design.json", store::studyToJson(asked));
  ASSERT_EQ(cli({"new", "again", "--design", "design.json"}).code, 0);
  ASSERT_EQ(cli({"run", "again", "--approve", "--quiet"}).code, 0);
  EXPECT_EQ(stopsIn(json::parse(cli({"findings", "again", "--json"}).out)), Ids{});
  ASSERT_EQ(cli({"report", "again", "--out", "r.html"}).code, 0);
  EXPECT_NE(support::contents(folder_ / "r.html").find("memory speed may differ: 1.15 resets the profile"),
            std::string::npos);
}

TEST_F(PlantedAccidents, ACableThatIsSlowerThanTheSlot) {
  makeBench("box", {{"is_external", false}}, {{"is_external", true}, {"cable_gbps", 10}});
  core::Study boxed = study("external_link", "own slot", "Tarn dock");
  boxed.measure_command = {"iron-lever-simbench", "measure", "--state", "bench", "copy"};
  runStudy(boxed);
  const json found = findings();
  EXPECT_EQ(stopsIn(found), Ids{});
  ASSERT_EQ(found["proof"]["measurements"].size(), 2U);  // both ways
  for (const json& step : found["proof"]["measurements"]) {
    EXPECT_EQ(step["agreement"], "agrees") << step.dump();
    EXPECT_LT(step["changed"][0], 2.5);  // 20 Gb/s one way
  }
}

TEST_F(PlantedAccidents, AMeasurementOfMoreThanItsCableCarries) {
  makeBench("box", {{"is_external", false}}, {{"is_external", true}});
  core::Study boxed = study("external_link", "own slot", "Tarn dock");
  boxed.measure_command = {"sh", "-c", "echo '{\"to_device_GBps\": {\"values\": [27, 27.1, 26.9]}}'"};
  runStudy(boxed);
  const json found = findings();
  const std::string id = "too_much/visit 2";
  EXPECT_NE(sentenceOf(found, id).find("more than the 5.0 GB/s that are possible (of the cable)"), std::string::npos)
      << sentenceOf(found, id);
  EXPECT_EQ(stopsIn(found), Ids{"measured_otherwise"});
}

TEST_F(PlantedAccidents, ErrorsThatAreCorrected) {
  makeBench("memory", {{"memory_mts", 4800}}, {{"memory_mts", 6000}, {"corrected_errors", 2}, {"link_errors", 1}});
  runStudy(study("memory_speed", "4800 MT/s", "6000 MT/s"));
  EXPECT_EQ(sentenceOf(findings(), "errors/visit 2"),
            "In visit 2 the machine counted 4 errors of memory, corrected or not, 2 link errors at 0000:00:01.0");
  EXPECT_EQ(sentenceOf(findings(), "errors/visit 1"), "");
}

TEST_F(PlantedAccidents, ALevelThatCannotBeReachedIsReportedWithItsAttempts) {
  makeBench("memory", {{"memory_mts", 4800}}, {{"memory_mts", 6000}},
            {{"faults", {{{"at_run", 3}, {"fault", "error"}}, {{"at_run", 4}, {"fault", "error"}}}}});
  core::Study asked = study("memory_speed", "4800 MT/s", "6000 MT/s");
  asked.plan.most_failures_in_a_row = 2;
  make(asked);
  EXPECT_NE(cli({"run", "s", "--approve", "--quiet"}).code, 0);  // held after two failures
  EXPECT_NE(cli({"report", "s", "--out", "r.html"}).err.find("the plan is not complete"), std::string::npos);
  ASSERT_EQ(cli({"not-reachable", "s", "6000 MT/s", "it does not start at this rate"}).code, 0);
  const Outcome reported = cli({"report", "s", "--out", "r.html"});
  ASSERT_EQ(reported.code, 0) << reported.err;
  const std::string page = support::contents(folder_ / "r.html");
  EXPECT_NE(page.find("6000 MT/s is not reachable on this bench: it does not start at this rate."), std::string::npos);
  EXPECT_NE(page.find("The level was set for visit 2."), std::string::npos);
  EXPECT_NE(page.find("Ring pass, 4K dome at 6000 MT/s, visit 2, pass 1, failed: "), std::string::npos);
}

TEST_F(PlantedAccidents, WhatIsSaidWhenAllIsOver) {
  makeBench("memory", {{"memory_mts", 4800}}, {{"memory_mts", 6000}});
  runStudy(study("memory_speed", "4800 MT/s", "6000 MT/s"));
  EXPECT_NE(cli({"not-reachable", "s", "6000 MT/s", "changed my mind"}).err.find("all of its passes are in"),
            std::string::npos);
  ASSERT_EQ(cli({"state", "s", "cooler", "tower"}).code, 0);
  ASSERT_EQ(cli({"note", "s", "the lab was warm"}).code, 0);
  ASSERT_EQ(cli({"report", "s", "--out", "r.html"}).code, 0);
  const std::string page = support::contents(folder_ / "r.html");
  EXPECT_NE(page.find("Said afterwards, when the last visit was over:"), std::string::npos);
  EXPECT_NE(page.find("cooler (stated): tower"), std::string::npos);
  // What the window can do, the command line can: the question again, and one finding confirmed.
  EXPECT_EQ(cli({"repeat", "s", "again"}).code, 0);
  EXPECT_NE(cli({"repeat", "s", "lower", "--lower"}).out.find("What would 4400 MT/s say?"), std::string::npos);
  EXPECT_EQ(store::StudyFile::open(folder_ / "lower")->study().variable().levels[1].name, "4400 MT/s");
  EXPECT_EQ(cli({"confirm", "s", "sure"}).code, 0);
  EXPECT_EQ(cli({"confirm", "s", "sure"}).err.find("sure: a file of this name exists"), 0U);
  EXPECT_EQ(store::StudyFile::open(folder_ / "sure")->study().plan.order, core::Order::BalancedShuffle);
}

TEST_F(PlantedAccidents, AOneWayFindingIsConfirmedInItsOwnOrder) {
  makeBench("memory", {{"memory_mts", 4800}}, {{"memory_mts", 6000}});
  core::Study swap = study("memory_speed", "4800 MT/s", "6000 MT/s");
  swap.plan.order = core::Order::Blocked;
  swap.plan.is_one_way = true;
  runStudy(swap);
  ASSERT_EQ(cli({"confirm", "s", "sure"}).code, 0);
  const core::Study confirmed = store::StudyFile::open(folder_ / "sure")->study();
  EXPECT_TRUE(core::problemsOf(confirmed).empty());
  EXPECT_EQ(confirmed.plan.order, core::Order::Blocked);
  EXPECT_TRUE(confirmed.plan.is_one_way);
}

TEST_F(PlantedAccidents, AnAmbiguousNumberIsAskedAbout) {
  core::Study typed = support::timedStudyOf({}, 1);
  typed.cases[0].source = core::ResultSource::ByHand;
  typed.cases[0].command.clear();
  make(typed);
  EXPECT_EQ(cli({"type", "s", "4,780"}).err,
            "typed result: '4,780' is 4780 or 4.780. Say which sign parts the decimals: --decimal comma, or --decimal "
            "point.\n");
  EXPECT_EQ(cli({"type", "s", "4,780", "--decimal", "point"}).code, 0);
  EXPECT_EQ(cli({"type", "s", "4,780", "--decimal", "comma"}).code, 0);
  const auto passes = store::StudyFile::open(folder_ / "s")->recorded()->passes;
  EXPECT_DOUBLE_EQ(*passes.at(0).value, 4780);
  EXPECT_DOUBLE_EQ(*passes.at(1).value, 4.78);
}

}  // namespace
