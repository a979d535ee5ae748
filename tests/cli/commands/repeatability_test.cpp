// What a bench remembers of its cases from study to study, by the real programs.
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "support/programs.h"

namespace {

using nlohmann::json;
using support::Outcome;

constexpr const char* kSteps = R"(n=$(cat n 2>/dev/null || echo 0); n=$((n+1)); echo $n > n
echo "{\"score\": $((1000 + n % 3))}")";

class RepeatabilityOfABench : public support::ProgramsTest {
 protected:
  void runStudy(const QString& name) const {
    const json design{{"bench", "Dome node"},
                      {"variable", "factor"},
                      {"levels", {{{"name", "one"}}, {{"name", "two"}}}},
                      {"cases",
                       {{{"workload", "Star survey"},
                         {"command", {"sh", "-c", kSteps}},
                         {"result", "json_field"},
                         {"field", "score"},
                         {"metric", {{"name", "score"}, {"unit", "points"}, {"direction", "higher"}}}}}},
                      {"plan", {{"order", "there_and_back"}, {"passes_per_level", 4}, {"warm_ups", 0}}}};
    folder_.write("design.json", design.dump());
    const Outcome made = cli({QStringLiteral("new"), name, QStringLiteral("--design"), QStringLiteral("design.json")});
    ASSERT_EQ(made.code, 0) << made.err;
    const Outcome ran = cli({QStringLiteral("run"), name, QStringLiteral("--approve"), QStringLiteral("--quiet")});
    ASSERT_EQ(ran.code, 0) << ran.out << ran.err;
  }
  [[nodiscard]] json known() const {
    return json::parse(cli({QStringLiteral("benches"), QStringLiteral("Dome node"), QStringLiteral("--repeatability"),
                            QStringLiteral("--json")})
                           .out);
  }
};

TEST_F(RepeatabilityOfABench, GrowsWithEachStudyAndCountsNoneTwice) {
  runStudy(QStringLiteral("a.ironlever"));
  json found = known();
  ASSERT_EQ(found.size(), 1U) << found;
  EXPECT_EQ(found[0]["case"], "Star survey");
  EXPECT_EQ(found[0]["studies"], 1);
  EXPECT_EQ(found[0]["passes"], 8);
  EXPECT_GT(found[0]["spread_percent"], 0.05);
  EXPECT_LT(found[0]["spread_percent"], 0.15);
  // The same sheet stopped and gone on with is one study.
  cli({QStringLiteral("run"), QStringLiteral("a.ironlever"), QStringLiteral("--quiet")});
  EXPECT_EQ(known()[0]["studies"], 1);
  runStudy(QStringLiteral("b.ironlever"));
  found = known();
  EXPECT_EQ(found[0]["studies"], 2);
  EXPECT_EQ(found[0]["passes"], 16);
  const Outcome text = cli({QStringLiteral("benches"), QStringLiteral("Dome node"), QStringLiteral("--repeatability")});
  EXPECT_NE(text.out.find("Star survey: passes differ by 0."), std::string::npos) << text.out;
  EXPECT_NE(text.out.find("in 2 studies."), std::string::npos) << text.out;
}

}  // namespace
