// A level that an earlier study measured, taken over by the real programs: its passes and captures stand in the new
// study, the two were not interleaved, and every page says so.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <QThread>
#include <filesystem>
#include <set>

#include <nlohmann/json.hpp>

#include "store/benches/bench_register.h"
#include "support/programs.h"

namespace {

using nlohmann::json;
using support::Outcome;
using ::testing::HasSubstr;

constexpr const char* kOneScore = R"(n=$(cat n 2>/dev/null || echo 0); n=$((n+1)); echo $n > n
echo "{\"score\": $((FACTOR + n % 7))}")";

class TakenLevels : public support::ProgramsTest {
 protected:
  void make(const char* name, const std::string& at_one, const json& changes = json::object()) const {
    json design{{"bench", "Dome node"},
                {"variable", "factor"},
                {"levels",
                 {{{"name", "one"}, {"environment", {{"FACTOR", at_one}}}},
                  {{"name", "two"}, {"environment", {{"FACTOR", "1100"}}}}}},
                {"cases",
                 {{{"workload", "Star survey"},
                   {"command", {"sh", "-c", kOneScore}},
                   {"result", "json_field"},
                   {"field", "score"},
                   {"metric", {{"name", "score"}, {"unit", "points"}, {"direction", "higher"}}}}}},
                {"plan", {{"order", "rounds"}, {"rounds", 3}, {"passes_per_visit", 2}, {"warm_ups", 1}}}};
    design.merge_patch(changes);
    folder_.write("design.json", design.dump());
    const Outcome made = cli({"new", name, "--design", "design.json"});
    ASSERT_EQ(made.code, 0) << made.err;
  }
  [[nodiscard]] Outcome cli(std::initializer_list<const char*> words) const {
    QStringList arguments;
    for (const char* word : words) arguments << QString::fromUtf8(word);
    return ProgramsTest::cli(arguments);
  }
  [[nodiscard]] json findings(const char* study) const { return json::parse(cli({"findings", study, "--json"}).out); }
  void run(const char* study) const {
    const Outcome ran = cli({"run", study, "--approve", "--quiet"});
    ASSERT_EQ(ran.code, 0) << ran.err;
  }
};

TEST_F(TakenLevels, AreNotMeasuredAgainAndSayThatTheyWereNotInterleaved) {
  make("then", "1000");
  run("then");
  make("now", "1010");  // the bench has moved by one percent
  const Outcome taken = cli({"take", "now", "two", "then"});
  ASSERT_EQ(taken.code, 0) << taken.err;
  EXPECT_THAT(taken.out, HasSubstr("Took 3 visits of two from then"));
  run("now");
  const json passes = json::parse(cli({"passes", "now", "--json"}).out);
  int from_then = 0;
  for (const json& pass : passes.at("passes")) from_then += pass.contains("origin");
  EXPECT_EQ(from_then, 6) << "three visits of two passes; none was run for it here";
  const json now = findings("now");
  EXPECT_EQ(now.at("cases").at(0).at("effect").at("estimator"), "visits")
      << "rounds pair what was measured side by side only";
  EXPECT_NEAR(now.at("cases").at(0).at("effect").at("change_percent").get<double>(), 100 * (1103.0 / 1013 - 1), 0.6);
  std::string said;
  for (const json& doubt : now.at("doubts"))
    if (doubt.at("id") == "taken_level/two") said = doubt.at("sentence");
  EXPECT_THAT(said, HasSubstr("two was not measured here but taken from then"));
  EXPECT_THAT(said, HasSubstr("Star survey at one moved the most, by +1.")) << "what both measured tells the drift";
  int remembered = 0;
  const store::BenchRegister benches(folder_ / "data/iron-lever/benches.sqlite");
  const auto known = benches.repeatability("Dome node");
  ASSERT_TRUE(known);
  for (const auto& one : *known) remembered += one.passes;
  EXPECT_EQ(remembered, 12 + 6) << "what was taken is remembered of the study that measured it";
}

TEST_F(TakenLevels, AreTakenWholeOrNotAtAll) {
  make("then", "1000");
  make("now", "1000");
  EXPECT_THAT(cli({"take", "now", "two", "then"}).err, HasSubstr("no pass of that level counts there"));
  run("then");
  EXPECT_THAT(cli({"take", "then", "two", "then"}).err, HasSubstr("before the first visit"));
  EXPECT_THAT(cli({"take", "now", "three", "then"}).err, HasSubstr("no level 'three'"));
  EXPECT_THAT(cli({"take", "now", "two", "then", "--called", "three"}).err, HasSubstr("no level 'three'"));
  EXPECT_THAT(cli({"take", "now", "two", "nowhere"}).err, HasSubstr("nowhere"));
  make("elsewhere", "1000", {{"bench", "Star node"}});
  EXPECT_THAT(cli({"take", "elsewhere", "two", "then"}).err, HasSubstr("it was measured at Dome node"));
  EXPECT_TRUE(json::parse(cli({"passes", "now", "--json"}).out).at("passes").empty()) << "nothing of it was filed";
  ASSERT_EQ(cli({"take", "now", "two", "then"}).code, 0);
  EXPECT_THAT(cli({"take", "now", "two", "then"}).err, HasSubstr("taken before"));
  EXPECT_THAT(cli({"take", "now", "one", "then"}).err, HasSubstr("one level at least is measured here"));
  make("other", "1000",
       {{"cases",
         {{{"workload", "Star survey"},
           {"command", {"sh", "-c", "echo '{\"score\": 5}'"}},
           {"result", "json_field"},
           {"field", "score"},
           {"metric", {{"name", "score"}, {"unit", "points"}, {"direction", "higher"}}}}}}});
  EXPECT_THAT(cli({"take", "other", "two", "then"}).err, HasSubstr("does not run there as it does here"));
}

TEST_F(TakenLevels, AreTakenWholeOrNotAtAllWheneverTheProgramIsKilled) {
  make("then", "1000");
  run("then");
  make("fresh", "1000");
  std::set<std::size_t> seen;
  for (int after_ms = 0; after_ms < 120; after_ms += 6) {
    std::filesystem::copy_file(folder_ / "fresh", folder_ / "now", std::filesystem::copy_options::overwrite_existing);
    QProcess process;
    start(process, QStringLiteral("iron-lever-cli"),
          {QStringLiteral("take"), QStringLiteral("now"), QStringLiteral("two"), QStringLiteral("then")});
    QThread::msleep(static_cast<unsigned long>(after_ms));
    process.kill();
    ASSERT_TRUE(process.waitForFinished());
    const Outcome passes = cli({"passes", "now", "--json"});
    ASSERT_EQ(passes.code, 0) << passes.err;
    seen.insert(json::parse(passes.out).at("passes").size());
    std::filesystem::remove(folder_ / "now-journal");
  }
  for (const std::size_t taken : seen) EXPECT_TRUE(taken == 0 || taken == 6) << taken;
}

// Planted: a second level that was taken, too, was told to have moved by nothing between the studies.
TEST_F(TakenLevels, ThatAreSeveralTellNothingOfEachOther) {
  // A patch takes the two levels of a pair away, and puts in a ladder of three.
  const json three{{"name", "factor"},
                   {"levels",
                    {{{"name", "one"}, {"environment", {{"FACTOR", "1000"}}}},
                     {{"name", "two"}, {"environment", {{"FACTOR", "1100"}}}},
                     {{"name", "three"}, {"environment", {{"FACTOR", "1200"}}}}}}};
  const json levels{
      {"variable", nullptr}, {"levels", nullptr}, {"shape", "ladder"}, {"variables", json::array({three})}};
  make("then", "1000", levels);
  run("then");
  make("now", "1000", levels);
  ASSERT_EQ(cli({"take", "now", "two", "then"}).code, 0);
  ASSERT_EQ(cli({"take", "now", "three", "then"}).code, 0);
  int told = 0;
  const json now = findings("now");
  for (const json& doubt : now.at("doubts"))
    if (doubt.at("id") == "taken_level/two" || doubt.at("id") == "taken_level/three") {
      EXPECT_THAT(doubt.at("sentence").get<std::string>(), HasSubstr("nothing that both measured tells how far"));
      ++told;
    }
  EXPECT_EQ(told, 2);
}

}  // namespace
