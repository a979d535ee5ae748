// Cases added to a complete plan, by the real programs: the first part's answer stays, the second is sealed meanwhile.
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "support/programs.h"

namespace {

using nlohmann::json;
using support::Outcome;

constexpr const char* kScore = R"(n=$(cat n 2>/dev/null || echo 0); n=$((n+1)); echo $n > n
echo "{\"score\": $((1000 + n % 7))}")";

class AddedCases : public support::ProgramsTest {
 protected:
  static json caseOf(const std::string& preset) {
    return {{"workload", "Star survey"},
            {"preset", preset},
            {"command", {"sh", "-c", kScore}},
            {"result", "json_field"},
            {"field", "score"},
            {"metric", {{"name", "score"}, {"unit", "points"}, {"direction", "higher"}}}};
  }
  void make(const json& plan) const {
    const json design{{"bench", "Dome node"},
                      {"variable", "factor"},
                      {"levels", {{{"name", "one"}}, {{"name", "two"}}}},
                      {"cases", {caseOf("4K dome"), caseOf("2K dome")}},
                      {"plan", plan}};
    folder_.write("design.json", design.dump());
    folder_.write("cases.json", json::array({caseOf("8K dome")}).dump());
    const Outcome made = cli({"new", "s", "--design", "design.json"});
    ASSERT_EQ(made.code, 0) << made.err;
  }
  static json inRounds() { return {{"order", "rounds"}, {"rounds", 3}, {"passes_per_visit", 1}, {"warm_ups", 0}}; }
  [[nodiscard]] Outcome cli(const QStringList& arguments) const { return ProgramsTest::cli(arguments); }
  [[nodiscard]] Outcome cli(std::initializer_list<const char*> words) const {
    QStringList arguments;
    for (const char* word : words) arguments << QString::fromUtf8(word);
    return ProgramsTest::cli(arguments);
  }
  [[nodiscard]] json findings() const { return json::parse(cli({"findings", "s", "--json"}).out); }
};

TEST_F(AddedCases, AreASecondPartAndLeaveTheFirstAsItWas) {
  make(inRounds());
  const Outcome early = cli({"add-cases", "s", "cases.json", "somebody asked", "--rounds", "3"});
  EXPECT_EQ(early.code, 1);
  EXPECT_NE(early.err.find("once the plan is complete"), std::string::npos) << early.err;
  ASSERT_EQ(cli({"run", "s", "--approve", "--quiet"}).code, 0);
  const json before = findings();
  EXPECT_FALSE(before.contains("second_part"));
  EXPECT_EQ(cli({"add-cases", "s", "cases.json", " ", "--rounds", "3"}).code, 1) << "without a reason";
  folder_.write("wrong.json", R"([{"workload": "Star survey", "comand": []}])");
  EXPECT_NE(cli({"add-cases", "s", "wrong.json", "why", "--rounds", "3"}).err.find("comand"), std::string::npos);
  const Outcome added = cli({"add-cases", "s", "cases.json", "somebody asked", "--rounds", "3"});
  ASSERT_EQ(added.code, 0) << added.err;
  json now = findings();
  EXPECT_EQ(now["claim"], before["claim"]);
  EXPECT_EQ(now["cases"], before["cases"]);
  EXPECT_EQ(now["suite"], before["suite"]);
  EXPECT_EQ(now["second_part"],
            (json{{"rounds", 3}, {"complete", false}, {"sealed", true}, {"cases", {"Star survey, 8K dome"}}}));
  EXPECT_EQ(now["plan_complete"], false);
  EXPECT_EQ(cli({"add-cases", "s", "cases.json", "again", "--rounds", "3"}).code, 1) << "there is a second part";
  // The report of the first part can be made meanwhile.
  EXPECT_EQ(cli({"report", "s", "--out", "r.html"}).code, 0);
  ASSERT_EQ(cli({"run", "s", "--approve", "--quiet"}).code, 0);
  now = findings();
  EXPECT_EQ(now["claim"], before["claim"]);
  ASSERT_EQ(now["cases"].size(), 3U);
  EXPECT_EQ(now["cases"][0], before["cases"][0]);
  EXPECT_EQ(now["second_part"]["complete"], true);
  EXPECT_EQ(now["cases"][2]["case"], "Star survey, 8K dome");
  // A study that repeats it asks all of them from the start.
  ASSERT_EQ(cli({"repeat", "s", "again"}).code, 0);
  EXPECT_EQ(cli({"run", "again", "--approve", "--quiet"}).code, 0);
}

TEST_F(AddedCases, KeepTheirResultsToThemselvesUntilTheirPartIsComplete) {
  make(inRounds());
  ASSERT_EQ(cli({"run", "s", "--approve", "--quiet"}).code, 0);
  ASSERT_EQ(cli({"add-cases", "s", "cases.json", "somebody asked", "--rounds", "3"}).code, 0);
  ASSERT_EQ(cli({"skip", "s", "the lamp failed"}).code, 0);
  const Outcome ran = cli({"run", "s", "--approve"});
  ASSERT_EQ(ran.code, 0) << ran.err;
  EXPECT_NE(ran.out.find("filed"), std::string::npos) << "no number is printed before the last pass: " << ran.out;
  const json passes = json::parse(cli({"passes", "s", "--json"}).out);
  EXPECT_TRUE(passes["passes"].back().contains("value")) << "complete";
}

TEST_F(AddedCases, NeedAPlanOfRounds) {
  make({{"order", "there_and_back"}, {"passes_per_level", 2}, {"warm_ups", 0}});
  ASSERT_EQ(cli({"run", "s", "--approve", "--quiet"}).code, 0);
  const Outcome refused = cli({"add-cases", "s", "cases.json", "why", "--rounds", "3"});
  EXPECT_EQ(refused.code, 1);
  EXPECT_NE(refused.err.find("study of its own"), std::string::npos) << refused.err;
}

}  // namespace
