// Several results of one pass, by the real programs: from output, pattern and file, one of them missing, divided, and a
// control; on record, in the findings and in the report.
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "store/study/database.h"
#include "store/study/study_file.h"
#include "support/programs.h"

namespace {

using nlohmann::json;
using support::Outcome;

constexpr const char* kSurvey = R"(n=$(cat n 2>/dev/null || echo 0); n=$((n+1)); echo $n > n
f=$((1000 + FACTOR * 100 + n % 3))
[ $n = 4 ] || echo "loaded in $((20000 / f)).5 s"
echo "{\"scores\": {\"sky\": $f, \"dome\": $((2 * f))}}"
echo "{\"multi\": $((8 * f))}" > result.json
)";

class SeveralResults : public support::ProgramsTest {
 protected:
  /// A design of one case with these results.
  void design(const json& results) const {
    const json level_a{{"name", "one"}, {"environment", {{"FACTOR", "0"}}}};
    const json level_b{{"name", "two"}, {"environment", {{"FACTOR", "1"}}}};
    const json made{
        {"bench", "Dome node"},
        {"variable", "factor"},
        {"levels", {level_a, level_b}},
        {"cases", {{{"workload", "Star survey"}, {"command", {"sh", "-c", kSurvey}}, {"results", results}}}},
        {"plan",
         {{"order", "balanced_shuffle"}, {"rounds", 4}, {"passes_per_visit", 2}, {"warm_ups", 0}, {"seed", 3}}}};
    folder_.write("design.json", made.dump());
  }
  static json four() {
    const auto points = [](const char* direction) { return json{{"unit", "points"}, {"direction", direction}}; };
    return json::array({{{"name", "load time"},
                         {"from", "pattern"},
                         {"pattern", "loaded in ([0-9.]+) s"},
                         {"metric", {{"unit", "s"}, {"direction", "lower"}}}},
                        {{"name", "sky score"},
                         {"from", "json_field"},
                         {"field", "scores.sky"},
                         {"metric", points("higher")},
                         {"headline", true}},
                        {{"name", "threads"},
                         {"from", "file"},
                         {"path", "result.json"},
                         {"field", "multi"},
                         {"metric", points("higher")},
                         {"divide_by", 8},
                         {"control", true}},
                        {{"name", "dome score"},
                         {"from", "pattern"},
                         {"pattern", "\"dome\": ([0-9]+)"},
                         {"metric", points("higher")}}});
  }
  Outcome make() const {
    return cli({QStringLiteral("new"), QStringLiteral("s.ironlever"), QStringLiteral("--design"),
                QStringLiteral("design.json")});
  }
  void runWhole() const {
    const Outcome made = make();
    ASSERT_EQ(made.code, 0) << made.err;
    const Outcome ran = cli(
        {QStringLiteral("run"), QStringLiteral("s.ironlever"), QStringLiteral("--approve"), QStringLiteral("--quiet")});
    ASSERT_EQ(ran.code, 0) << ran.out << ran.err;
  }
  [[nodiscard]] json findings() const {
    const Outcome said = cli({QStringLiteral("findings"), QStringLiteral("s.ironlever"), QStringLiteral("--json")});
    EXPECT_EQ(said.code, 0) << said.err;
    return json::parse(said.out);
  }
};

TEST_F(SeveralResults, OfOnePassAreFindingsOfTheirOwn) {
  design(four());
  runWhole();
  const json out = findings();
  const json& results = out["cases"][0]["results"];
  ASSERT_EQ(results.size(), 4U);
  EXPECT_EQ(results[0]["name"], "sky score") << "the headline first";
  EXPECT_EQ(results[0]["is_headline"], true);
  EXPECT_EQ(results[1]["name"], "load time");
  EXPECT_EQ(results[1]["direction"], "lower");
  EXPECT_EQ(results[1]["at"][0]["passes"].get<int>() + results[1]["at"][1]["passes"].get<int>(), 15)
      << "one of 16 passes did not print it";
  EXPECT_EQ(results[2]["is_control"], true);
  for (const json& one : results) {
    EXPECT_GT(one["improvement_percent"], 6) << one["name"];
    EXPECT_LT(one["improvement_percent"], 12) << one["name"];
    EXPECT_EQ(one["verdict"], "gain") << one["name"];
    EXPECT_TRUE(one["p_holm"].is_number());
    EXPECT_EQ(one["at"].size(), 2U);
  }
  EXPECT_NEAR(results[2]["at"][0]["mean"], results[0]["at"][0]["mean"], 1e-6) << "divided by eight";
  std::vector<std::string> doubts;
  for (const json& one : out["doubts"]) doubts.push_back(one["id"]);
  EXPECT_NE(std::find(doubts.begin(), doubts.end(), "control_moved/Star survey/threads"), doubts.end());
  EXPECT_NE(std::find(doubts.begin(), doubts.end(), "further_missing/Star survey/load time"), doubts.end());
  const Outcome text = cli({QStringLiteral("findings"), QStringLiteral("s.ironlever")});
  EXPECT_NE(text.out.find("    load time: "), std::string::npos) << text.out;
  EXPECT_NE(text.out.find("    threads (should not respond): "), std::string::npos) << text.out;
  ASSERT_EQ(
      cli({QStringLiteral("report"), QStringLiteral("s.ironlever"), QStringLiteral("--out"), QStringLiteral("r.html")})
          .code,
      0);
  const std::string page = support::contents(folder_ / "r.html");
  EXPECT_NE(page.find("Results beside the headline"), std::string::npos);
  EXPECT_NE(page.find("dome score"), std::string::npos);
}

TEST_F(SeveralResults, OfWhichTheHeadlineIsMissingFailThePassWithThatReason) {
  json results = four();
  results[1].erase("headline");
  results[0]["headline"] = true;
  design(results);
  ASSERT_EQ(make().code, 0);
  cli({QStringLiteral("run"), QStringLiteral("s.ironlever"), QStringLiteral("--approve"), QStringLiteral("--quiet")});
  const auto passes = store::StudyFile::open(folder_ / "s.ironlever")->recorded()->passes;
  ASSERT_GE(passes.size(), 4U);
  EXPECT_EQ(passes[3].status, core::PassStatus::Failed);
  EXPECT_NE(passes[3].failure.find("nothing matches the pattern"), std::string::npos) << passes[3].failure;
  ASSERT_EQ(passes[3].further.size(), 3U);
  EXPECT_TRUE(passes[3].further[0].value) << "its other results are on record";
}

TEST_F(SeveralResults, ThatAreNotWrittenAnewAreNotTakenForThoseOfThePass) {
  design(json::array({{{"name", "stale"},
                       {"from", "file"},
                       {"path", "old.json"},
                       {"field", "x"},
                       {"metric", {{"unit", "points"}, {"direction", "higher"}}}}}));
  folder_.write("old.json", R"({"x": 5})");
  ASSERT_EQ(make().code, 0);
  cli({QStringLiteral("run"), QStringLiteral("s.ironlever"), QStringLiteral("--approve"), QStringLiteral("--quiet")});
  const auto passes = store::StudyFile::open(folder_ / "s.ironlever")->recorded()->passes;
  ASSERT_FALSE(passes.empty());
  EXPECT_EQ(passes[0].failure,
            "old.json: the file is still that of an earlier pass. See that the program writes it at every run.");
}

TEST_F(SeveralResults, AreRefusedWithPlaceAndRemedyWhereTheDesignIsWrong) {
  const auto refused = [&](const json& results) {
    design(results);
    const Outcome outcome = make();
    EXPECT_EQ(outcome.code, 1) << outcome.out;
    return outcome.err;
  };
  json two_headlines = four();
  two_headlines[0]["headline"] = true;
  EXPECT_NE(refused(two_headlines).find("one result is the headline"), std::string::npos);
  EXPECT_NE(refused(json::array()).find("one result is the headline"), std::string::npos);
  json nameless = four();
  nameless[0].erase("name");
  EXPECT_NE(refused(nameless).find("cases[0].results[0].name"), std::string::npos);
  json fieldless = four();
  fieldless[1].erase("field");
  EXPECT_NE(refused(fieldless).find("cases[0].results[1].field"), std::string::npos);
}

TEST_F(SeveralResults, ThatAreDamagedTakeTheirPassAlone) {
  design(four());
  runWhole();
  {
    auto database = store::Database::open(folder_ / "s.ironlever", store::Database::Mode::OpenExisting);
    ASSERT_TRUE(database.ok());
    ASSERT_TRUE(database->execute("UPDATE result SET value = value * 2 WHERE pass_id = 7 AND place = 2").ok());
  }
  const auto recorded = store::StudyFile::open(folder_ / "s.ironlever")->recorded();
  ASSERT_TRUE(recorded.ok());
  for (const core::Pass& pass : recorded->passes) EXPECT_EQ(pass.is_damaged, pass.id == 7) << pass.id;
}

}  // namespace
