// Numbers that people really have, through everything that judges them: each says something true, or says why not.
#include <gtest/gtest.h>

#include <cmath>
#include <functional>
#include <limits>

#include "core/estimate/half_width.h"
#include "core/findings/headline.h"
#include "core/judgement/judgement.h"
#include "core/planning/extension.h"
#include "support/recorded_study.h"

namespace {

using core::ConfigurationId;

/// A value for each slot; nothing where the pass failed.
struct Series {
  const char* name;
  std::function<std::optional<double>(const core::Slot&)> at;
};

bool isChanged(const core::Slot& slot) { return slot.configuration != ConfigurationId::Baseline; }

std::vector<Series> series() {
  return {{"all alike", [](const core::Slot&) { return 60.0; }},
          {"alike within each level", [](const core::Slot& slot) { return isChanged(slot) ? 61.0 : 60.0; }},
          {"alike at one level", [](const core::Slot& slot) { return isChanged(slot) ? 60.0 + slot.number : 60.0; }},
          {"zero everywhere", [](const core::Slot&) { return 0.0; }},
          {"zero at one level", [](const core::Slot& slot) { return isChanged(slot) ? 3.0 + slot.number : 0.0; }},
          {"negative", [](const core::Slot& slot) { return -5.0 - slot.number - (isChanged(slot) ? 1 : 0); }},
          {"tiny", [](const core::Slot& slot) { return 1e-300 * (1 + slot.number + (isChanged(slot) ? 1 : 0)); }},
          {"huge", [](const core::Slot& slot) { return 1e300 * (1 + slot.number + (isChanged(slot) ? 1 : 0)); }},
          {"from tiny to huge", [](const core::Slot& slot) { return isChanged(slot) ? 1e300 * slot.number : 1e-300; }},
          {"a hair apart", [](const core::Slot& slot) { return 60.0 + 1e-13 * slot.number; }},
          {"nothing at one level",
           [](const core::Slot& slot) { return isChanged(slot) ? std::nullopt : std::optional(60.0 + slot.number); }},
          {"one pass at a level",
           [](const core::Slot& slot) {
             return isChanged(slot) && slot.visit > 2 ? std::nullopt : std::optional(60.0 + slot.number);
           }},
          {"nothing at all", [](const core::Slot&) { return std::optional<double>(); }}};
}

core::Study planOf(core::Order order, int passes) {
  core::Study study = support::roundsOf(3, passes);
  study.plan.order = order;
  study.plan.passes_per_level = order == core::Order::ThereAndBack ? 2 * passes : passes;
  return study;
}

void expectNumbers(const core::Judgement& judged, const std::string& what) {
  const std::string sentence = judged.claim.sentence() + judged.claim.safety;
  EXPECT_EQ(sentence.find("nan"), std::string::npos) << what << ": " << sentence;
  EXPECT_EQ(sentence.find("inf"), std::string::npos) << what << ": " << sentence;
  for (const core::Doubt& doubt : judged.doubts) {
    EXPECT_EQ(doubt.sentence.find("nan"), std::string::npos) << what << ": " << doubt.sentence;
    EXPECT_NE(doubt.id, "drift") << what << ": " << doubt.sentence;
  }
  for (const core::CaseFinding& finding : judged.findings.cases) {
    if (finding.drift && finding.drift->is_estimable) {
      EXPECT_TRUE(std::isfinite(finding.drift->p)) << what;
    }
    if (finding.improvement.interval) {
      EXPECT_LE(finding.improvement.interval->lo, finding.improvement.value) << what;
      EXPECT_GE(finding.improvement.interval->hi, finding.improvement.value) << what;
    }
  }
  for (const core::ContrastFinding& one : judged.shape.contrasts) {
    EXPECT_FALSE(std::isnan(one.contrast.difference)) << what;
    if (one.contrast.inference) {
      EXPECT_TRUE(std::isfinite(one.contrast.inference->p)) << what;
    }
  }
}

TEST(NumbersAtTheirEdge, PassThroughEveryJudgement) {
  for (const core::Order order : {core::Order::Blocked, core::Order::ThereAndBack, core::Order::BalancedShuffle})
    for (const int passes : {1, 2, 3})
      for (const bool is_typed : {false, true})
        for (const core::Scale scale : {core::Scale::Ratio, core::Scale::Difference})
          for (const bool is_control : {false, true})
            for (const Series& one : series()) {
              support::RecordedStudy recorded{planOf(order, passes)};
              core::Case& a_case = recorded.study.cases[0];
              a_case.metric.scale = scale;
              a_case.metric.threshold = scale == core::Scale::Difference ? 1 : 0;
              a_case.is_control = is_control;
              if (is_typed) a_case.source = core::ResultSource::ByHand;
              recorded.study.cases.push_back(a_case);
              recorded.study.cases.back().preset = "2K dome";
              recorded.record([&](core::Pass& pass, const core::Slot& slot) {
                pass.value = one.at(slot);
                pass.started_ms = 60'000 * static_cast<std::int64_t>(pass.id);
                if (is_typed && pass.value) pass.typed = core::TypedValue{"60", *pass.value, 1, false};
              });
              expectNumbers(recorded.judged(), std::string(one.name) + ", order " +
                                                   std::to_string(static_cast<int>(order)) + ", " +
                                                   std::to_string(passes) + (is_typed ? ", typed" : ""));
            }
}

TEST(NumbersAtTheirEdge, PassThroughLaddersCrossingsAndChains) {
  for (const core::Study& study : {support::ladderOf(3, 1), support::crossedOf(3), support::chainOf(3)})
    for (const Series& one : series()) {
      support::RecordedStudy recorded{study};
      recorded.record([&](core::Pass& pass, const core::Slot& slot) { pass.value = one.at(slot); });
      expectNumbers(recorded.judged(), one.name);
    }
}

// 60, 60 at one level and 61, 61 at the other: whole numbers, read off a screen.
TEST(NumbersAtTheirEdge, OfEqualTypedResultsTellWhatMoreOfThemWouldSay) {
  for (const core::Order order : {core::Order::Blocked, core::Order::ThereAndBack}) {
    support::RecordedStudy recorded{planOf(order, 2)};
    recorded.study.cases[0].source = core::ResultSource::ByHand;
    recorded.record([](core::Pass& pass, const core::Slot& slot) {
      pass.value = isChanged(slot) ? 61 : 60;
      pass.typed = core::TypedValue{"60", *pass.value, 1, false};
    });
    const core::CaseFinding finding = recorded.findings().cases[0];
    ASSERT_TRUE(finding.effect && finding.effect->contrast.inference);
    const core::Inference& inference = *finding.effect->contrast.inference;
    // The half-width of no more passes is that of the interval which stands beside it.
    EXPECT_NEAR(core::halfWidthOf(*finding.effect, 0.95)(0), (inference.hi - inference.lo) / 2, 1e-12);
    // The last digit stays what it is: ever more passes never bring the half-width to nothing.
    EXPECT_GT(core::halfWidthOf(*finding.effect, 0.95)(100), 0.005);
  }
}

// A null study whose visits are all alike in length: the interval stands on its visit means alone.
TEST(NumbersAtTheirEdge, OfANullStudyHaveTheHalfWidthOfTheirInterval) {
  support::RecordedStudy recorded{planOf(core::Order::Blocked, 2)};
  recorded.recordRates({60, 63}, 0.02);
  const std::string title = recorded.findings().cases[0].title;
  recorded.also.null_study = {
      "2026-11-20", {{title, {{60, 60.2}, {60.3, 60.1}, {59.9, 59.8}, {60.1, 60.3}, {59.8, 60.2}, {60.2, 60.2}}}}};
  const core::CaseFinding finding = recorded.findings().cases[0];
  ASSERT_TRUE(finding.effect->flip && finding.effect->flip->is_visit_means);
  const core::Inference& inference = *finding.effect->contrast.inference;
  EXPECT_NEAR(core::halfWidthOf(*finding.effect, 0.95)(0), (inference.hi - inference.lo) / 2, 1e-12);
}

// Each case has an interval from its last digit; the suite of them has one too.
TEST(NumbersAtTheirEdge, OfASuiteTypedAlikeHaveAnInterval) {
  support::RecordedStudy recorded{planOf(core::Order::ThereAndBack, 1)};
  recorded.study.cases[0].source = core::ResultSource::ByHand;
  recorded.study.cases.push_back(recorded.study.cases[0]);
  recorded.study.cases.back().preset = "2K dome";
  recorded.record([](core::Pass& pass, const core::Slot& slot) {
    pass.value = isChanged(slot) ? 63 : 60;
    pass.typed = core::TypedValue{"60", *pass.value, 1, false};
  });
  const core::Findings findings = recorded.findings();
  ASSERT_TRUE(findings.cases[0].improvement.interval);
  ASSERT_TRUE(findings.suite && findings.suite->improvement.interval);
  EXPECT_LT(findings.suite->improvement.interval->lo, findings.suite->improvement.value);
}

TEST(NumbersAtTheirEdge, WithoutSpreadDoNotDrift) {
  std::vector<core::TimedPass> passes;
  for (int i = 0; i < 8; ++i) passes.push_back({i, i % 2, 0.1 * i, 60.0});
  const core::Drift same = core::driftOf(passes, 0, 1, 0.95);
  EXPECT_FALSE(same.is_flagged);
  EXPECT_EQ(same.p, 1);
  for (std::size_t i = 0; i < passes.size(); ++i) passes[i].value = 60 * (1 + 1e-15 * static_cast<double>(i % 3));
  EXPECT_FALSE(core::driftOf(passes, 0, 1, 0.95).is_flagged);
}

// The headline of any shape is that of a pair: never a control's, and none where several cases stand for themselves.
TEST(Headlines, OfEveryShapeAreNeverAControls) {
  for (const core::Study& study : {support::ladderOf(3, 1), support::crossedOf(3), support::chainOf(3)}) {
    support::RecordedStudy recorded{study};
    recorded.study.cases.push_back(recorded.study.cases[0]);
    recorded.study.cases[0].is_control = true;
    recorded.study.cases[0].preset = "a control";
    recorded.study.cases[0].metric = {"render time", "s", core::Direction::LowerIsBetter};
    recorded.record([](core::Pass& pass, const core::Slot& slot) {
      pass.value = slot.case_index == 0
                       ? 9 + 0.01 * slot.round
                       : 60 + 5 * static_cast<double>(core::placeOf(slot.configuration)) + 0.1 * slot.round;
    });
    const core::Judgement judged = recorded.judged();
    EXPECT_EQ(judged.shape.headlineCase(), 1U);
    EXPECT_EQ(judged.claim.metric, "average FPS") << judged.claim.sentence();
    EXPECT_EQ(judged.claim.cases, "Ring pass, 4K dome") << judged.claim.sentence();
  }
}

}  // namespace
