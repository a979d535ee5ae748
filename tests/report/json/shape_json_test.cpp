// What `findings --json` says of every shape: a contract with whoever reads it.
#include <gtest/gtest.h>

#include <set>

#include "report/json/findings_json.h"
#include "support/recorded_study.h"

namespace {

using nlohmann::ordered_json;

ordered_json findingsOf(core::Study study, double missing_level = -1) {
  support::RecordedStudy recorded{std::move(study)};
  recorded.record([&](core::Pass& pass, const core::Slot& slot) {
    const auto place = static_cast<double>(core::placeOf(slot.configuration));
    if (place != missing_level)
      pass.value = 60 * (1 + 0.05 * place) * (1 + 1e-3 * ((slot.visit * 3 + slot.number) % 7));
  });
  return report::findingsJson(recorded.study, recorded.recorded(), recorded.judged());
}

std::set<std::string> keysOf(const ordered_json& object) {
  std::set<std::string> keys;
  for (const auto& [key, value] : object.items()) keys.insert(key);
  return keys;
}

const std::set<std::string> kContrastKeys{"case",
                                          "kind",
                                          "variable",
                                          "from",
                                          "to",
                                          "at",
                                          "estimator",
                                          "d",
                                          "se",
                                          "df",
                                          "p",
                                          "p_holm",
                                          "own_se",
                                          "p_gain",
                                          "p_loss",
                                          "p_same",
                                          "p_zero",
                                          "p_gain_holm",
                                          "p_loss_holm",
                                          "p_same_holm",
                                          "p_zero_holm",
                                          "improvement_percent",
                                          "improvement_lo_percent",
                                          "improvement_hi_percent",
                                          "verdict",
                                          "marks"};

TEST(ShapeJson, HasEveryContrastOfEveryCaseWithEveryKey) {
  for (core::Study study :
       {support::studyOf({"true"}), support::ladderOf(), support::crossedOf(), support::chainOf()}) {
    study.cases.push_back(study.cases[0]);
    study.cases[1].preset = "8K dome";
    const std::size_t asked = core::contrastsOf(study).size();
    const ordered_json found = findingsOf(study);
    EXPECT_EQ(found["shape"], core::shapeName(study.shape));
    ASSERT_EQ(found["contrasts"].size(), 3 * asked);  // both cases together, and each
    for (std::size_t i = 0; i < 3 * asked; ++i) {
      const ordered_json& one = found["contrasts"][i];
      EXPECT_EQ(keysOf(one), kContrastKeys);
      EXPECT_EQ(one["case"], i < asked ? "all" : study.cases[i / asked - 1].title());
      EXPECT_TRUE(one["d"].is_number()) << one;
      EXPECT_EQ(one["p_holm"].is_null(), i < asked);  // the suite is no case of a family
      EXPECT_EQ(one["at"].is_null(), one["kind"] != "simple" && one["kind"] != "interaction");
    }
    EXPECT_EQ(found["ladder"].size(), study.shape == core::Shape::Ladder ? 3U : 0U);
    EXPECT_EQ(found["chain"].size(), study.shape == core::Shape::Chain ? 3U : 0U);
    EXPECT_TRUE(found["missing"].empty());
  }
}

TEST(ShapeJson, OfALadderNamesLevelsStepsAndTheEnoughPoint) {
  const ordered_json ladder = findingsOf(support::ladderOf())["ladder"][0];
  EXPECT_EQ(ladder["levels"].size(), 4U);
  EXPECT_EQ(ladder["levels"][2]["resource"], 15.75);
  EXPECT_EQ(ladder["levels"][0]["improvement_percent"], 0);
  EXPECT_EQ(ladder["neighbours"].size(), 3U);
  // Of the highest measured level nobody knows whether it is enough.
  EXPECT_TRUE(ladder["enough_point"].is_null());
  EXPECT_EQ(ladder["enough"], "no_lower_level");
  EXPECT_EQ(ladder["highest_measured"], "Gen 4");
  EXPECT_EQ(ladder["lowest_enough_by_itself"], "Gen 4");
  EXPECT_EQ(keysOf(ladder["transfer_model"]),
            (std::set<std::string>{"t0_ms", "D_mb_per_frame", "df", "ceiling_fps", "residual_scale", "se_t0", "se_D",
                                   "t0_lo_ms", "t0_hi_ms", "D_lo", "D_hi"}));
  EXPECT_TRUE(ladder["rank_reversals"].empty());
}

TEST(ShapeJson, OfAChainSharesSumToTheWhole) {
  const ordered_json chain = findingsOf(support::chainOf())["chain"][0];
  double sum = 0;
  for (const ordered_json& step : chain["steps"]) sum += step["share"].get<double>();
  EXPECT_NEAR(sum, 1, 1e-9);
  EXPECT_NEAR(chain["total"]["percent"].get<double>(), 15, 0.5);
}

TEST(ShapeJson, IsNullWhereALevelHasNoResultAndSaysWhy) {
  const ordered_json found = findingsOf(support::ladderOf(), 3);
  int undefined = 0;
  for (const ordered_json& one : found["contrasts"]) {
    EXPECT_EQ(keysOf(one), kContrastKeys);
    undefined += one["d"].is_null() && one["verdict"].is_null() && one["marks"].empty();
  }
  EXPECT_EQ(undefined, 2);  // against the baseline, and the last step
  ASSERT_EQ(found["missing"].size(), 1U);
  EXPECT_EQ(found["missing"][0]["name"], "Gen 4");
  EXPECT_EQ(found["missing"][0]["reason"], "its passes failed");
  EXPECT_TRUE(found["ladder"][0]["levels"][3]["mean"].is_null());
  EXPECT_TRUE(found["ladder"][0]["levels"][3]["predicted"]["mean"].is_number());
}

TEST(ShapeJson, OfSealedResultsSaysNothingOfTheEffect) {
  core::Study study = support::ladderOf();
  study.plan.is_sealed = true;
  support::RecordedStudy recorded{study};
  recorded.record([](core::Pass& pass, const core::Slot&) { pass.value = 60; });
  recorded.passes.pop_back();
  const ordered_json found = report::findingsJson(study, recorded.recorded(), recorded.judged());
  EXPECT_TRUE(found["sealed"].get<bool>());
  EXPECT_TRUE(found["contrasts"].empty());
  EXPECT_TRUE(found["ladder"].empty());
}

// The seal, whatever is added to what is written: as long as it holds, a study whose change brings half as much again
// reads like one whose change brings nothing, to the last letter.
TEST(ShapeJson, OfASealedStudyIsTheSameWhateverTheChangeBrings) {
  for (core::Study study : {support::roundsOf(3), support::ladderOf(3), support::crossedOf(3), support::chainOf(3)}) {
    study.plan.is_sealed = true;
    study.target_fps = 60;
    study.cases.push_back(study.cases[0]);
    study.cases[1].preset = "8K dome";
    const auto text = [&](double gain, bool is_complete) {
      support::RecordedStudy recorded{study};
      recorded.record([&](core::Pass& pass, const core::Slot& slot) {
        const double place = static_cast<double>(core::placeOf(slot.configuration));
        pass.value = 50 * (1 + gain * place) * (1 + 1e-3 * ((slot.visit * 3 + slot.number) % 7));
      });
      if (!is_complete) recorded.passes.pop_back();
      return report::findingsJson(recorded.study, recorded.recorded(), recorded.judged()).dump(1);
    };
    EXPECT_EQ(text(0, false), text(0.5, false)) << core::shapeName(study.shape);
    EXPECT_NE(text(0, true), text(0.5, true)) << "it opens with the last pass";
  }
}

}  // namespace
