// A threshold in percent and one in ms a frame: in each case the larger one holds, and it is said which.
#include <gtest/gtest.h>

#include <cmath>

#include "core/findings/contrast_rows.h"
#include "core/findings/lever_axis.h"
#include "core/findings/result_row.h"
#include "core/findings/thresholds.h"
#include "support/recorded_study.h"

namespace {

using core::ThresholdDecides;
using core::Verdict;

TEST(NoticeThreshold, IsNeverLessThanThePercentageAndNeverLessThanTheTime) {
  for (const double percent : {0.0, 1.0, 2.0, 25.0})
    for (const double ms : {0.01, 0.5, 3.0, 16.0})
      for (const double frame : {2.0, 4.2, 16.7, 100.0}) {
        const core::NoticeThreshold threshold = core::noticeThreshold(percent, ms, frame);
        EXPECT_GE(threshold.gain_percent, percent);
        const double shorter = frame / (1 + threshold.gain_percent / 100);  // as long as a frame is after such a gain
        if (threshold.decides == ThresholdDecides::NothingCanBeNoticed) {
          EXPECT_GE(ms, frame);
          EXPECT_NEAR(frame / (1 + threshold.loss_percent / 100) - frame, ms, 1e-9);
        } else {
          EXPECT_GE(frame - shorter, ms - 1e-9);
          EXPECT_NEAR((1 + threshold.gain_percent / 100) * (1 + threshold.loss_percent / 100), 1, 1e-12);
        }
      }
  const core::NoticeThreshold alone = core::noticeThreshold(2, 1.28);  // of what counts no frames
  EXPECT_EQ(alone.gain_percent, 2);
  EXPECT_EQ(alone.decides, ThresholdDecides::Percent);
}

double wobble(const core::Slot& slot) { return 1 + 0.001 * ((7 * slot.visit + 3 * slot.number) % 5); }

// A slow case, a quick one, one of a frame time, one without frames: 4 % better each.
support::RecordedStudy fourCases() {
  support::RecordedStudy recorded{support::studyOf({"workload", "{log}"}, 2)};
  core::Study& study = recorded.study;
  study.plan.order = core::Order::BalancedShuffle;
  study.plan.rounds = 4;
  study.plan.drawn = core::drawRounds(2, 4, 1);
  study.cases.resize(4, study.cases[0]);
  for (std::size_t i = 0; i < 4; ++i) study.cases[i].preset = "preset " + std::to_string(i);
  study.cases[2].metric = {"mean frame time", "ms", core::Direction::LowerIsBetter};
  study.cases[3].metric = {"copied", "GB/s"};
  recorded.record([](core::Pass& pass, const core::Slot& slot) {
    const double better = (slot.configuration == core::ConfigurationId::Changed ? 1.04 : 1.0) * wobble(slot);
    const double values[] = {40.0, 400.0, 20.0, 25.0};
    pass.value = slot.case_index == 2 ? values[2] / better : values[slot.case_index] * better;
  });
  return recorded;
}

TEST(Findings, JudgeEachCaseByTheLargerThreshold) {
  support::RecordedStudy recorded = fourCases();
  for (const core::CaseFinding& finding : recorded.findings().cases) EXPECT_EQ(finding.verdict, Verdict::Gain);
  recorded.study.notice_threshold_ms = 0.5;
  const core::Findings findings = recorded.findings();
  const auto verdict = [&](std::size_t of) { return core::verdictText(findings.cases[of]); };
  EXPECT_TRUE(verdict(0).starts_with("gain, judged by 0.5 ms per frame"))
      << verdict(0);                                                 // of 25 ms: 2.04 % more frames
  EXPECT_EQ(findings.cases[1].verdict, Verdict::RealButNegligible);  // 0.1 of 2.5 ms
  EXPECT_TRUE(verdict(1).starts_with("real but negligible, judged by 0.5 ms per frame")) << verdict(1);
  EXPECT_NEAR(findings.cases[1].threshold.gain_percent, 25, 0.2);
  EXPECT_EQ(findings.cases[2].verdict, Verdict::Gain);  // 0.77 of 20 ms
  EXPECT_TRUE(verdict(3).starts_with("gain, judged by 2 %")) << verdict(3);
  // One case without frames keeps the percentage for itself, and leaves the others their time.
  EXPECT_EQ(findings.suite->threshold.decides, ThresholdDecides::Mixed);
  const double of_frames_ln = -std::log1p(-0.5 / std::cbrt(25.0 * 2.5 * 20.0));
  EXPECT_NEAR(findings.suite->threshold.gain_percent, 100 * std::expm1((3 * of_frames_ln + std::log(1.02)) / 4), 0.05);
  recorded.study.cases[3].is_control = true;
  const core::SuiteFinding of_frames = *recorded.findings().suite;
  EXPECT_EQ(of_frames.threshold.decides, ThresholdDecides::Milliseconds);
  EXPECT_NEAR(of_frames.threshold.loss_percent, -100 * 0.5 / std::cbrt(25.0 * 2.5 * 20.0), 0.05);
  EXPECT_EQ(of_frames.verdict, Verdict::RealButNegligible);
}

TEST(Findings, OfFramesShorterThanTheTimeNameNoGainAndStillALoss) {
  support::RecordedStudy recorded = fourCases();
  recorded.study.cases.resize(2);
  recorded.study.notice_threshold_ms = 4;
  const auto quick = [&](double changed) {
    recorded.record([&](core::Pass& pass, const core::Slot& slot) {
      pass.value = (slot.configuration == core::ConfigurationId::Changed ? changed : 400.0) * wobble(slot);
    });
    return recorded.findings().cases[1];
  };
  EXPECT_EQ(quick(800).verdict, Verdict::RealButNegligible);
  EXPECT_TRUE(
      core::verdictText(quick(800)).starts_with("real but negligible, judged by 4 ms, no less than a frame lasts"));
  EXPECT_EQ(quick(200).verdict, Verdict::RealButNegligible);  // 2.5 ms longer
  EXPECT_EQ(quick(100).verdict, Verdict::Loss);               // 7.5 ms longer
  EXPECT_FALSE(quick(800).further);
}

// What is measured against it besides, such as a drift, is so for every case.
TEST(Findings, OfADifferenceKeepTheStudysPercentage) {
  support::RecordedStudy recorded = fourCases();
  recorded.study.notice_threshold_percent = 7;
  recorded.study.notice_threshold_ms = 1;
  recorded.study.cases[0].metric = {"noise", "dB", core::Direction::LowerIsBetter, core::Scale::Difference};
  const core::CaseFinding finding = recorded.findings().cases[0];
  EXPECT_EQ(finding.threshold.gain_percent, 7);
  EXPECT_EQ(core::verdictText(finding).find("judged by"), std::string::npos);
}

TEST(LeverAxis, ShowsAZoneThatIsWiderThanTheEffectAndCutsOneWithoutEnd) {
  const core::LeverAxis wide = core::leverAxisOf(std::vector<core::LeverBeam>{{4, {}, 25}});
  EXPECT_GE(wide.high, 25);
  EXPECT_LE(wide.low, -20);
  const core::LeverAxis endless = core::leverAxisOf(std::vector<core::LeverBeam>{{4, {}, INFINITY}});
  EXPECT_LT(endless.high, 100);
  EXPECT_GT(endless.high, 4);
}

}  // namespace
