#include <gtest/gtest.h>

#include <cmath>
#include <filesystem>
#include <fstream>

#include "cli/compute.h"
#include "core/percent.h"
#include "core/suite.h"

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

// The suite's null studies come with the noise floor; everything else of the group must agree.
std::vector<core::SuiteCase> suiteCases(const json& input) {
  std::vector<core::SuiteCase> cases;
  for (const json& direction : input.at("directions"))
    cases.push_back({direction == "lower" ? core::Direction::LowerIsBetter : core::Direction::HigherIsBetter, {}});
  int number = 0;
  const auto add = [&](core::Side side, int round, const json& visit) {
    ++number;
    for (std::size_t i = 0; i < cases.size(); ++i)
      cases[i].visits.push_back({side, number, round, visit.at(i).get<std::vector<double>>()});
  };
  if (input.at("design") == "rounds") {
    int round = 0;
    for (const json& pair : input.at("rounds")) {
      add(core::Side::Baseline, ++round, pair.at("baseline"));
      add(core::Side::Changed, round, pair.at("changed"));
    }
    return cases;
  }
  for (const json& visit : input.at("baseline")) add(core::Side::Baseline, 0, visit);
  for (const json& visit : input.at("changed")) add(core::Side::Changed, 0, visit);
  return cases;
}

TEST(SuiteVectors, AgreeWhereNoNullStudyIsUsed) {
  int compared = 0;
  for (const json& one : group("suite_shared_visits")) {
    if (one.at("input").contains("null_study") && one.at("expected").value("rule", "none") != "none") continue;
    const auto suite = core::summarizeSuite(suiteCases(one.at("input")), one.at("input").value("confidence", 0.95));
    ASSERT_TRUE(suite.ok()) << one.at("name");
    const auto part = [](const core::Contrast& c) {
      return json{{"se", *c.se},
                  {"df", c.inference->df},
                  {"p", c.inference->p},
                  {"lo_percent", core::percentOfLn(c.inference->lo)},
                  {"hi_percent", core::percentOfLn(c.inference->hi)}};
    };
    json got{{"d", suite->this_suite.difference},
             {"geometric_mean_percent", core::percentOfLn(suite->this_suite.difference)},
             {"arithmetic_mean_percent", suite->arithmetic_mean_percent},
             {"this_suite", part(suite->this_suite)},
             {"cases_like_these", part(suite->cases_like_these)}};
    got["cases_like_these"]["widened"] = suite->is_widened;
    json want = one.at("expected");
    for (const char* key : {"rounds", "left_out", "cases", "rule", "caveat", "visits_baseline", "visits_changed"})
      want.erase(key);
    expectSame(got, want, one.at("tolerance"), one.at("name"));
    ++compared;
  }
  EXPECT_GE(compared, 5);
}

TEST(Compute, AnUnknownGroupListsTheKnownOnes) {
  const auto answer = cli::compute("levers", json::object());
  ASSERT_FALSE(answer.ok());
  EXPECT_EQ(answer.error().kind, core::ErrorKind::Missing);
  EXPECT_NE(answer.error().remedy.find("effect_passes"), std::string::npos);
}

TEST(Compute, NamesTheFieldThatIsMissing) {
  const auto answer = cli::compute("effect_passes", {{"baseline", {1.0, 2.0}}});
  ASSERT_FALSE(answer.ok());
  EXPECT_NE(answer.error().what.find("changed"), std::string::npos);
}

}  // namespace
