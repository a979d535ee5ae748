#include <gtest/gtest.h>

#include <cmath>
#include <filesystem>
#include <fstream>
#include <map>

#include "cli/compute/compute.h"

namespace {

using nlohmann::json;

json group(const std::string& name) {
  std::ifstream file(std::string(IRON_LEVER_VECTORS) + "/" + name + ".json");
  return json::parse(file).at("cases");
}

void expectSame(const json& got, const json& want, const json& tolerance, const std::string& place) {
  if (want.is_number() && !want.is_boolean()) {
    ASSERT_TRUE(got.is_number()) << place << ": got " << got;
    const double a = got.get<double>();
    const double b = want.get<double>();
    const double allowed = std::max(tolerance.at("abs").get<double>(),
                                    tolerance.at("rel").get<double>() * std::max(std::abs(a), std::abs(b)));
    EXPECT_NEAR(a, b, allowed) << place;
  } else if (want.is_object()) {
    for (const auto& [key, value] : want.items()) {
      ASSERT_TRUE(got.contains(key)) << place << "." << key << " is missing";
      expectSame(got.at(key), value, tolerance, place + "." + key);
    }
  } else if (want.is_array()) {
    ASSERT_EQ(got.size(), want.size()) << place;
    for (std::size_t i = 0; i < want.size(); ++i)
      expectSame(got[i], want[i], tolerance, place + "[" + std::to_string(i) + "]");
  } else {
    EXPECT_EQ(got, want) << place;
  }
}

class Vectors : public testing::TestWithParam<std::string> {
 protected:
  void SetUp() override {
    std::filesystem::current_path(IRON_LEVER_VECTORS);
  }  // a long series lies in a CSV named there
};

TEST_P(Vectors, AreComputedAsKnown) {
  const json cases = group(GetParam());
  ASSERT_FALSE(cases.empty());
  for (const json& one : cases) {
    const auto answer = cli::compute(GetParam(), one.at("input"));
    ASSERT_TRUE(answer.ok()) << one.at("name") << ": " << answer.error().sentence();
    expectSame(*answer, one.at("expected"), one.at("tolerance"), one.at("name"));
  }
}

INSTANTIATE_TEST_SUITE_P(Groups, Vectors, testing::ValuesIn(cli::computeGroups()),
                         [](const auto& one) { return one.param; });

// Lists of unequal length, values without a logarithm: an error that says where, and nothing read past an end.
TEST(Compute, RefusesRaggedLevels) {
  const json rungs = {{{"name", "x4"}, {"resource", 4}}, {{"name", "x8"}, {"resource", 8}}};
  for (const json& data :
       {json{{{1, 2}, {1, 2}}, {{1, 2}}}, json{{{1, 2}, {1, 2}}, {{1, 2}, json::array()}},
        json{{{1, 2}, {1, 2}}, {{1, 2}, {1, 2}, {1, 2}}}, json{{{1, 2}, {1, 0}}, {{1, 2}, {1, 2}}}, json::array()}) {
    const json ladder = {
        {"design", "rounds"}, {"levels", rungs}, {"baseline", "x4"}, {"data", data}, {"delta_percent", 2}};
    const json chain = {{"design", "rounds"}, {"chain", {"x4", "x8"}}, {"data", data}};
    for (const auto& [name, input] : std::map<std::string, json>{
             {"ladder_elasticity", ladder}, {"enough_point", ladder}, {"loss_accounting", chain}}) {
      const auto answer = cli::compute(name, input);
      ASSERT_FALSE(answer.ok()) << name << data;
      EXPECT_EQ(answer.error().kind, core::ErrorKind::OutOfRange) << name << data;
    }
  }
  const json cells = {
      {"design", "passes"}, {"weights", {{"a", -1}, {"b", 2}}}, {"passes", {{"a", {1, 2}}, {"b", {1, 2}}}}};
  EXPECT_EQ(cli::compute("contrast", cells).error().where, "weights");  // they do not cancel
  const json missing = {{"design", "passes"}, {"weights", {{"a", -1}, {"b", 1}}}, {"passes", {{"a", {1, 2}}}}};
  EXPECT_EQ(cli::compute("contrast", missing).error().kind, core::ErrorKind::TooFew);
}

// A third level is neither of the two: its passes count for none, and a round without it is complete.
TEST(Compute, EstimatorChoiceLeavesAThirdLevelOut) {
  json visits = json::array();
  for (int round = 1; round <= 3; ++round)
    for (const char* level : {"A", "C", "B"}) visits.push_back({{"level", level}, {"round", round}, {"passes", 2}});
  const auto chosen = cli::compute("estimator_choice", {{"baseline", "A"}, {"changed", "B"}, {"visits", visits}});
  ASSERT_TRUE(chosen.ok()) << chosen.error().sentence();
  EXPECT_EQ(chosen->at("passes_changed"), 6);
  EXPECT_EQ(chosen->at("visits_changed"), 3);
  EXPECT_EQ(chosen->at("estimator"), "rounds");
}

TEST(Compute, AnUnknownGroupListsTheKnownOnes) {
  const auto answer = cli::compute("levers", json::object());
  ASSERT_FALSE(answer.ok());
  EXPECT_EQ(answer.error().kind, core::ErrorKind::Missing);
  EXPECT_NE(answer.error().remedy.find("effect_passes"), std::string::npos);
}

// What no such number can be is refused with its place, and never worked with.
TEST(Compute, RefusesNumbersThatTheirNamesCannotBe) {
  struct Bad {
    const char* group;
    json input;
    const char* place;
  };
  for (const Bad& bad :
       {Bad{"planning", {{"ask", "power"}, {"confidence", 2}}, "planning.confidence"},
        Bad{"suite_summary", {{"cases", {{{"confidence", -1}}}}}, "suite_summary.cases[0].confidence"},
        Bad{"planning", {{"ask", "power"}, {"passes", -1}}, "planning.passes"},
        Bad{"estimator_choice", {{"visits", {{{"passes", 1e30}}}}}, "estimator_choice.visits[0].passes"},
        Bad{"estimator_choice", {{"visits", {{{"round", 1e300}}}}}, "estimator_choice.visits[0].round"},
        Bad{"frame_metrics", {{"low_percents", {-1e200}}}, "frame_metrics.low_percents"},
        Bad{"frame_metrics", {{"quantiles", {2}}}, "frame_metrics.quantiles"},
        Bad{"verdicts", {{"lo_percent", 3}, {"hi_percent", 1}, {"delta_percent", 2}}, "verdicts.lo_percent"}}) {
    const auto answer = cli::compute(bad.group, bad.input);
    ASSERT_FALSE(answer.ok()) << bad.place;
    EXPECT_EQ(answer.error().kind, core::ErrorKind::OutOfRange);
    EXPECT_EQ(answer.error().where, std::string("compute ") + bad.place);
    EXPECT_FALSE(answer.error().remedy.empty());
  }
}

TEST(Compute, GivesNoPercentOfAShiftThatHasNone) {
  const json below_zero{{"design", "passes"}, {"baseline", {-1.0, -2.0, -3.0}}, {"changed", {1.0, 2.0, 3.0}}};
  const auto answer = cli::compute("permutation_and_hl", below_zero);
  ASSERT_TRUE(answer.ok()) << answer.error().sentence();
  EXPECT_TRUE(answer->at("hl_shift_percent").is_null());
}

TEST(Compute, NamesTheFieldThatIsMissing) {
  const auto answer = cli::compute("effect_passes", {{"baseline", {1.0, 2.0}}});
  ASSERT_FALSE(answer.ok());
  EXPECT_NE(answer.error().what.find("changed"), std::string::npos);
}

}  // namespace
