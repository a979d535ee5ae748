// A case that does not run at a level, or runs with a condition: a result, and no failed pass; by the real programs.
#include <gtest/gtest.h>

#include <algorithm>

#include <nlohmann/json.hpp>

#include "store/study/study_file.h"
#include "support/programs.h"

namespace {

using nlohmann::json;
using support::Outcome;

constexpr const char* kScript = R"(n=$(cat n 2>/dev/null || echo 0); n=$((n+1)); echo $n > n
if [ "$1" = large ] && [ $GIB = 16 ]; then echo "not enough memory" >&2; exit 3; fi
[ $GIB = 16 ] && echo "LOW MEMORY"
echo "{\"score\": $((1000 + GIB + n % 3))}"
)";

class PossibleCases : public support::ProgramsTest {
 protected:
  void make(const json& possible, const std::string& script = kScript) const {
    const auto level = [](const char* name, const char* gib) {
      return json{{"name", name}, {"environment", {{"GIB", gib}}}};
    };
    const auto a_case = [&](const char* preset) {
      return json{{"workload", "Star survey"},
                  {"preset", preset},
                  {"command", {"sh", "-c", script, "sh", preset}},
                  {"result", "json_field"},
                  {"field", "score"},
                  {"metric", {{"name", "score"}, {"unit", "points"}, {"direction", "higher"}}},
                  {"possible", possible}};
    };
    const json design{
        {"bench", "Dome node"},
        {"variable", "memory size"},
        {"levels", {level("16 GiB", "16"), level("32 GiB", "32")}},
        {"cases", {a_case("large"), a_case("small")}},
        {"plan",
         {{"order", "balanced_shuffle"}, {"rounds", 3}, {"passes_per_visit", 2}, {"warm_ups", 0}, {"seed", 3}}}};
    folder_.write("design.json", design.dump());
    const Outcome made = cli({QStringLiteral("new"), QStringLiteral("s.ironlever"), QStringLiteral("--design"),
                              QStringLiteral("design.json")});
    ASSERT_EQ(made.code, 0) << made.err;
  }
  [[nodiscard]] Outcome runWhole() const {
    return cli({QStringLiteral("run"), QStringLiteral("s.ironlever"), QStringLiteral("--approve")});
  }
  [[nodiscard]] json findings() const {
    return json::parse(cli({QStringLiteral("findings"), QStringLiteral("s.ironlever"), QStringLiteral("--json")}).out);
  }
};

json byCode() {
  return {{"does_not_run", {{"exit_codes", {3}}}},
          {"conditions", {{{"name", "warned of low memory"}, {"pattern", "LOW MEMORY"}}}}};
}

TEST_F(PossibleCases, ThatDoNotRunAtALevelAreSaidFirstAndFailNoPass) {
  make(byCode());
  const Outcome ran = runWhole();
  EXPECT_EQ(ran.code, 0) << ran.out << ran.err;
  EXPECT_NE(ran.out.find("does not run here: it ended with code 3: not enough memory"), std::string::npos) << ran.out;
  const json out = findings();
  EXPECT_EQ(out["failed_passes"], 0);
  EXPECT_EQ(out["plan_complete"], true);
  EXPECT_TRUE(out["claim"].get<std::string>().starts_with("Star survey, large runs at 32 GiB only. On Dome node"))
      << out["claim"];
  EXPECT_EQ(out["safety"].get<std::string>().find("large"), std::string::npos)
      << "what did not run before has nothing to lose: " << out["safety"];
  const json& possible = out["possible"];
  ASSERT_EQ(possible.size(), 4U);
  EXPECT_EQ(possible[0]["answer"], "does_not_run");
  EXPECT_EQ(possible[0]["reason"], "it ended with code 3: not enough memory");
  EXPECT_EQ(possible[1]["answer"], "runs");
  EXPECT_EQ(possible[2]["answer"], "runs_with_conditions");
  EXPECT_EQ(possible[2]["conditions"], json::array({{{"name", "warned of low memory"}, {"passes", 6}, {"of", 6}}}));
  EXPECT_EQ(out["cases"][1]["verdict"].is_string(), true) << "the other case is judged all the same";
  const Outcome text = cli({QStringLiteral("findings"), QStringLiteral("s.ironlever")});
  EXPECT_NE(text.out.find("Star survey, small at 16 GiB: runs, warned of low memory in 6 of 6 passes"),
            std::string::npos)
      << text.out;
  EXPECT_EQ(text.out.find("failed"), std::string::npos) << text.out;
  ASSERT_EQ(
      cli({QStringLiteral("report"), QStringLiteral("s.ironlever"), QStringLiteral("--out"), QStringLiteral("r.html")})
          .code,
      0);
  EXPECT_NE(support::contents(folder_ / "r.html").find("What each level makes possible"), std::string::npos);
}

TEST_F(PossibleCases, ThatRunNoLongerMakeALevelUnsafe) {
  std::string script = kScript;
  script.replace(script.find("$GIB = 16 ]; then"), 9, "$GIB = 32");
  make(byCode(), script);
  EXPECT_EQ(runWhole().code, 0);
  EXPECT_EQ(findings()["safety"], "32 GiB is not safe to use: Star survey, large does not run there");
}

TEST_F(PossibleCases, AreToldByWhatTheyPrintAndAtNoLevelToo) {
  make({{"does_not_run", {{"pattern", "score|not enough memory"}}}});
  EXPECT_EQ(runWhole().code, 0);
  const json out = findings();
  EXPECT_TRUE(out["claim"].get<std::string>().starts_with("Star survey, large does not run at 16 GiB, 32 GiB. "))
      << out["claim"];
  for (const json& one : out["possible"]) EXPECT_EQ(one["answer"], "does_not_run");
}

TEST_F(PossibleCases, ThatNobodyAskedAreFailedPassesAsBefore) {
  make(json::object());
  (void)runWhole();
  const auto passes = store::StudyFile::open(folder_ / "s.ironlever")->recorded()->passes;
  EXPECT_TRUE(std::any_of(passes.begin(), passes.end(), [](const core::Pass& one) {
    return one.status == core::PassStatus::Failed && one.does_not_run.empty();
  }));
}

}  // namespace
