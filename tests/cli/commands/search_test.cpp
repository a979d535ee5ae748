// The search for the highest stable step, by the real programs: up, a test, down; a machine that hangs, a kill, a
// person.
#include <gtest/gtest.h>

#include <filesystem>

#include <nlohmann/json.hpp>

#include "support/programs.h"

namespace {

using nlohmann::json;
using support::Outcome;

class Search : public support::ProgramsTest {
 protected:
  void SetUp() override {
    std::filesystem::create_directories(folder_ / "machine/proc/sys/kernel/random");
    folder_.write("machine/proc/sys/kernel/random/boot_id", "boot-1\n");
    folder_.write("limit", "6000");
  }
  // Holds while the step is not above what stands in the file `limit`.
  static constexpr const char* kTest = R"sh(echo "$STEP" >> tried; [ "$STEP" -le "$(cat limit)" ])sh";

  void make(const char* test = kTest, const json& levels_also = json::object()) const {
    json levels = json::array();
    for (const int step : {4800, 5600, 6000, 6400}) {
      json level{{"name", std::to_string(step) + " MT/s"}, {"environment", {{"STEP", std::to_string(step)}}}};
      level.update(levels_also);
      levels.push_back(level);
    }
    const json design{{"bench", "Dome node 3"},
                      {"shape", "ladder"},
                      {"machine", "machine"},
                      {"variables", {{{"name", "memory speed"}, {"levels", levels}}}},
                      {"stability_command", {"sh", "-c", test}},
                      {"cases",
                       {{{"workload", "Ring pass"},
                         {"command", {"sh", "-c", "echo '{\"score\": 7}'"}},
                         {"result", "json_field"},
                         {"field", "score"},
                         {"metric", {{"name", "score"}, {"unit", "points"}, {"direction", "higher"}}}}}},
                      {"plan", {{"order", "rounds"}, {"rounds", 3}, {"passes_per_visit", 1}, {"warm_ups", 0}}}};
    folder_.write("design.json", design.dump());
    const Outcome made = call({"new", "s", "--design", "design.json"});
    ASSERT_EQ(made.code, 0) << made.err;
  }
  [[nodiscard]] Outcome call(std::initializer_list<const char*> words) const {
    QStringList arguments;
    for (const char* word : words) arguments << QString::fromUtf8(word);
    return cli(arguments);
  }
  [[nodiscard]] json search() const {
    const Outcome out = call({"search", "s", "--approve", "--json"});
    const json found = json::parse(out.out, nullptr, false);
    EXPECT_FALSE(found.is_discarded()) << out.out << out.err;
    return found;
  }
};

TEST_F(Search, GoesUpAndDownAndItsEndIsALevelThatTheSheetTakes) {
  make();
  const Outcome unapproved = call({"search", "s"});
  EXPECT_EQ(unapproved.code, 4) << unapproved.err;
  EXPECT_EQ(support::contents(folder_ / "tried"), "") << "nothing is started unasked";
  const Outcome searched = call({"search", "s", "--approve"});
  EXPECT_EQ(searched.code, 0) << searched.err;
  EXPECT_NE(searched.out.find("The highest stable step is 6000 MT/s."), std::string::npos) << searched.out;
  EXPECT_EQ(support::contents(folder_ / "tried"), "4800\n5600\n6000\n6400\n6000\n");
  const json again = search();
  EXPECT_EQ(again["highest"], "6000 MT/s");
  EXPECT_TRUE(again["over"]);
  ASSERT_EQ(again["tried"].size(), 5U);
  EXPECT_EQ(again["tried"][3]["held"], false);
  EXPECT_EQ(support::contents(folder_ / "tried"), "4800\n5600\n6000\n6400\n6000\n") << "it is over";
  // The sheet measures the three levels that hold, and tests none of them once more.
  ASSERT_EQ(call({"run", "s", "--approve", "--quiet"}).code, 0);
  EXPECT_EQ(support::contents(folder_ / "tried"), "4800\n5600\n6000\n6400\n6000\n");
  const json findings = json::parse(call({"findings", "s", "--json"}).out);
  EXPECT_EQ(findings["recorded_passes"], 9);
  EXPECT_EQ(findings["not_reachable"][0]["level"], "6400 MT/s");
  const Outcome late = call({"search", "s"});
  EXPECT_EQ(late.code, 1);
  EXPECT_NE(late.err.find("before the first"), std::string::npos) << late.err;
}

TEST_F(Search, TakesAMachineThatRestartedInATestForAStepThatFailed) {
  make(R"(echo "$STEP" >> tried; if [ "$STEP" = 6000 ] && [ ! -e hung ]; then touch hung; kill -9 $PPID; sleep 5; fi)");
  (void)call({"search", "s", "--approve"});
  EXPECT_EQ(support::contents(folder_ / "tried"), "4800\n5600\n6000\n");
  folder_.write("machine/proc/sys/kernel/random/boot_id", "boot-2\n");
  const json found = search();
  EXPECT_EQ(found["highest"], "5600 MT/s") << found;
  EXPECT_NE(found["tried"][2]["how"].get<std::string>().find("restarted in the middle of its test"), std::string::npos);
  EXPECT_EQ(support::contents(folder_ / "tried"), "4800\n5600\n6000\n5600\n");
}

TEST_F(Search, BeginsATestAnewThatWasKilledInTheSameBoot) {
  make(R"(echo "$STEP" >> tried; if [ "$STEP" = 5600 ] && [ ! -e hung ]; then touch hung; kill -9 $PPID; sleep 5; fi
[ "$STEP" -le 6000 ])");
  (void)call({"search", "s", "--approve"});
  const json found = search();
  EXPECT_EQ(found["highest"], "6000 MT/s") << found;
  EXPECT_EQ(support::contents(folder_ / "tried"), "4800\n5600\n5600\n6000\n6400\n6000\n");
}

TEST_F(Search, OfAPairThatAPersonSetsWaitsForThem) {
  const json design{{"bench", "Dome node 3"},
                    {"machine", "machine"},
                    {"variable", "memory speed"},
                    {"kind", "memory_speed"},
                    {"levels", {{{"name", "slow"}, {"checklist", {"photograph the menu"}}}, {{"name", "fast"}}}},
                    {"stability_command", {"sh", "-c", "echo t >> tried"}},
                    {"cases",
                     {{{"workload", "Ring pass"},
                       {"command", {"true"}},
                       {"result", "by_hand"},
                       {"metric", {{"name", "score"}, {"unit", "points"}, {"direction", "higher"}}}}}}};
  folder_.write("design.json", design.dump());
  ASSERT_EQ(call({"new", "s", "--design", "design.json"}).code, 0);
  const Outcome first = call({"search", "s", "--approve"});
  EXPECT_EQ(first.code, 4) << first.err;
  EXPECT_NE(first.out.find("Now bring Dome node 3 to slow by hand"), std::string::npos) << first.out;
  EXPECT_NE(first.out.find("[ ] photograph the menu"), std::string::npos) << first.out;
  EXPECT_EQ(support::contents(folder_ / "tried"), "");
  EXPECT_EQ(call({"search", "s", "--set"}).code, 4) << "slow holds, fast is asked for";
  const Outcome last = call({"search", "s", "--set"});
  EXPECT_EQ(last.code, 0) << last.err;
  EXPECT_NE(last.out.find("The highest stable step is fast."), std::string::npos) << last.out;
}

}  // namespace
