// The sheet where a person flips, or a command does in vain: it stops before the first pass of a level that is not
// there, asks for the first level as for any other, and lets a visit that is left out be repeated.
#include "cli/planted_bench.h"

namespace {

using nlohmann::json;
using support::Outcome;

class SheetByHand : public support::PlantedBench {
 protected:
  void SetUp() override {
    makeBench("memory", {{"memory_mts", 4800}}, {{"memory_mts", 6000}}, json::parse(R"({"variables": {"firmware": {
      "initial": "old", "levels": {"old": {"machine": {"firmware_version": "D2-1.14"}},
                                   "new": {"machine": {"firmware_version": "D2-1.15"}}}}}})"));
  }
  [[nodiscard]] core::Study memory(bool by_hand) {
    core::Study asked = study("memory_speed", "4800 MT/s", "6000 MT/s", by_hand);
    asked.plan.drawn.clear();
    return asked;
  }
  void flip(const std::string& to) const {
    EXPECT_EQ(run("iron-lever-simbench", {"set", "--state", "bench", "memory=" + to, "--reboot"}).code, 0);
  }
  [[nodiscard]] Outcome sheet() const { return cli({"run", "s", "--approve", "--quiet"}); }
  [[nodiscard]] std::size_t passes() const { return store::StudyFile::open(folder_ / "s")->recorded()->passes.size(); }
  [[nodiscard]] json status() const { return json::parse(cli({"status", "s", "--json"}).out); }
  static bool holds(const std::string& text, const std::string& part) { return text.find(part) != std::string::npos; }
};

TEST_F(SheetByHand, StopsBeforeTheFirstPassOfALevelThatACommandDidNotBringAbout) {
  core::Study asked = memory(false);
  asked.variable().levels[1].set_command[4] = "memory=a";  // the menu was not saved
  make(asked);
  const Outcome ran = sheet();
  EXPECT_EQ(ran.code, 4) << ran.out;
  EXPECT_TRUE(holds(ran.err, "6000 MT/s was asked, 4800 MT/s is read")) << ran.err;
  EXPECT_TRUE(holds(ran.out, "iron-lever-cli measure-anyway s ")) << ran.out;
  EXPECT_TRUE(holds(ran.out, "iron-lever-cli not-reachable s \"6000 MT/s\" ")) << ran.out;
  EXPECT_EQ(passes(), 2U) << "those of the first visit";
  EXPECT_TRUE(status()["waits_for_a_person"]);
  EXPECT_EQ(sheet().code, 4) << "looked at again, and it still is not there";
  EXPECT_EQ(passes(), 2U);
  EXPECT_EQ(cli({"measure-anyway", "s", " "}).code, 1);
  EXPECT_EQ(cli({"measure-anyway", "s", "the tables are wrong on this board"}).code, 0);
  EXPECT_EQ(sheet().code, 4) << "the next visit to the level is asked about by itself";
  EXPECT_EQ(passes(), 4U);
  // What does not contradict anything is not waved through beforehand.
  EXPECT_EQ(cli({"not-reachable", "s", "6000 MT/s", "it falls back to 4800"}).code, 0);
  EXPECT_EQ(sheet().code, 0);
  EXPECT_EQ(cli({"measure-anyway", "s", "why not"}).code, 1);
}

TEST_F(SheetByHand, StopsWhereTheRestartDidNotHappen) {
  core::Study asked = memory(true);
  asked.plan.order = core::Order::Blocked;
  asked.plan.passes_per_level = 2;
  make(asked);
  EXPECT_EQ(sheet().code, 4) << "the first visit ran: the bench was read to be there";
  EXPECT_EQ(passes(), 2U);
  const Outcome forgot = sheet();  // nobody touched the bench
  EXPECT_EQ(forgot.code, 4);
  EXPECT_TRUE(
      holds(forgot.err, "6000 MT/s was asked, 4800 MT/s is read, and the machine has not restarted since visit 1"))
      << forgot.err;
  EXPECT_EQ(passes(), 2U);
  flip("b");
  EXPECT_EQ(sheet().code, 0);
  EXPECT_EQ(passes(), 4U);
  EXPECT_EQ(stopsIn(findings()), Ids{}) << "the visit without a pass is none";
}

TEST_F(SheetByHand, AsksForTheFirstLevelUnlessTheBenchIsReadToBeThere) {
  flip("b");  // it stands at the changed level, where somebody left it
  core::Study asked = memory(true);
  asked.plan.order = core::Order::Blocked;
  asked.plan.passes_per_level = 2;
  make(asked);
  EXPECT_TRUE(status()["waits_for_a_person"]);
  const Outcome first = sheet();
  EXPECT_EQ(first.code, 4);
  EXPECT_TRUE(holds(first.out, "Now bring Dome node 3 to 4800 MT/s by hand:")) << first.out;
  EXPECT_EQ(passes(), 0U);
  flip("a");
  EXPECT_EQ(sheet().code, 4);  // the first visit is in, the second level is asked for
  EXPECT_EQ(passes(), 2U);
}

TEST_F(SheetByHand, WaitsWhereALevelBringsAnEnvironmentAlong) {
  core::Study asked = memory(true);
  asked.plan.order = core::Order::Blocked;
  asked.plan.passes_per_level = 2;
  asked.variable().levels[1].environment = {{"RING_HINT", "fast"}};  // memory is not swapped by that
  make(asked);
  const Outcome ran = sheet();
  EXPECT_EQ(ran.code, 4);
  EXPECT_TRUE(holds(ran.out, "Now bring Dome node 3 to 6000 MT/s by hand:")) << ran.out;
  EXPECT_EQ(passes(), 2U);
}

TEST_F(SheetByHand, RepeatsAVisitThatIsLeftOutAlsoOfACompletePlan) {
  const auto set = [&](const std::string& what) {
    EXPECT_EQ(run("iron-lever-simbench", {"set", "--state", "bench", what, "--reboot"}).code, 0) << what;
  };
  make(memory(true));
  for (const char* to : {"a", "b", "b", "a"}) {  // there and back
    flip(to);
    if (passes() == 4) set("firmware=new");  // somebody updates before the third visit, and takes it back after it
    if (passes() == 6) set("firmware=old");
    (void)sheet();
  }
  EXPECT_TRUE(status()["is_complete"]);
  const json before = findings();
  EXPECT_EQ(before["cases"][0]["counted_changed"], 2) << "the third visit is left out";
  EXPECT_TRUE(holds(cli({"repeat-visit", "s", "1", "for luck"}).err, "visit 1 is not left out"));
  EXPECT_EQ(cli({"repeat-visit", "s", "one", "for luck"}).code, 1);
  ASSERT_EQ(cli({"repeat-visit", "s", "3", "the firmware is back"}).code, 0);
  EXPECT_FALSE(status()["is_complete"]);
  EXPECT_EQ(status()["next"]["visit"], 3);
  EXPECT_EQ(sheet().code, 4) << "its level is asked for";
  flip("b");
  EXPECT_EQ(sheet().code, 0);
  const json after = findings();
  EXPECT_EQ(after["cases"][0]["counted_changed"], 4);
  EXPECT_TRUE(holds(sentenceOf(after, "plan_changed"),
                    "visit 3 repeated, after results could be seen: the firmware is "
                    "back"))
      << after["doubts"].dump();
}

TEST_F(SheetByHand, GoesOnWithoutARungThatFailsItsTestForErrors) {
  core::Study asked = memory(false);
  asked.plan.order = core::Order::Blocked;
  asked.plan.passes_per_level = 2;
  asked.stability_command = {"sh", "-c", "test ! -e hot || exit 3"};
  asked.variable().levels[1].set_command = {"sh", "-c",
                                            "touch hot; exec iron-lever-simbench set --state bench memory=b --reboot"};
  make(asked);
  const Outcome ran = sheet();
  EXPECT_EQ(ran.code, 0) << ran.err;
  EXPECT_TRUE(holds(ran.out, "6000 MT/s has no result: not stable: ")) << ran.out;
  EXPECT_EQ(passes(), 2U);
  const json found = findings();
  for (const json& doubt : found["doubts"])
    EXPECT_FALSE(holds(doubt["sentence"], "Nobody has tested 6000 MT/s")) << doubt["sentence"];
  // What the one level yields stands in the claim.
  EXPECT_TRUE(holds(found["claim"], "6000 MT/s is not reachable here")) << found["claim"];
  EXPECT_TRUE(holds(found["claim"], "Ring pass, 4K dome has a result at 4800 MT/s only, ")) << found["claim"];
}

TEST_F(SheetByHand, SaysWhichPassGotATypedNumberAndWhichIsNext) {
  core::Study typed = support::timedStudyOf({}, 1);
  typed.cases[0].source = core::ResultSource::ByHand;
  typed.cases[0].command.clear();
  make(typed);
  EXPECT_EQ(cli({"type", "s", "57.3"}).out,
            "Filed 57.30 s as visit 1, pass 1 of Ring pass, 4K dome at 4800 MT/s.\n"
            "Next: visit 2, pass 1 of Ring pass, 4K dome at 6000 MT/s.\n");
  EXPECT_EQ(status()["next"]["level"], "6000 MT/s");
  EXPECT_TRUE(status()["waits_for_a_person"]);
  const json said = json::parse(cli({"type", "s", "55.1", "--json"}).out);
  EXPECT_EQ(said["filed"]["level"], "6000 MT/s");
  EXPECT_EQ(said["filed"]["value"], 55.1);
  EXPECT_TRUE(said["next"].is_null());
  EXPECT_EQ(status()["recorded_passes"], 2);
  EXPECT_FALSE(status()["waits_for_a_person"]);
}

}  // namespace
