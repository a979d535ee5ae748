// What a verdict claims, in families, and what the spread of all configurations buys.
#include "core/estimate/claims.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "core/estimate/effect.h"
#include "core/estimate/quality.h"
#include "support/recorded_study.h"

namespace {

using core::Verdict;

/// A study of `cases` cases in rounds with known truths, whose judgement is asked for.
class Simulated {
 public:
  Simulated(core::Study study, std::size_t cases) : recorded_{std::move(study)} {
    while (recorded_.study.cases.size() < cases) {
      recorded_.study.cases.push_back(recorded_.study.cases[0]);
      recorded_.study.cases.back().preset = "preset " + std::to_string(recorded_.study.cases.size());
    }
  }
  /// `truth`: ln values by configuration, the same in each case; `pass_sd` by configuration.
  core::Judgement draw(const std::vector<double>& truth, const std::vector<double>& pass_sd, double flip_sd) {
    std::normal_distribution<double> normal;
    std::map<int, double> flips;
    recorded_.record([&](core::Pass& pass, const core::Slot& slot) {
      if (!flips.contains(slot.visit)) flips[slot.visit] = flip_sd * normal(random_);
      const std::size_t at = core::placeOf(slot.configuration);
      pass.value = 60 * std::exp(truth[at] + flips[slot.visit] + pass_sd[at] * normal(random_));
      pass.started_ms = 60000 * static_cast<std::int64_t>(pass.id);
    });
    return recorded_.judged();
  }

 private:
  support::RecordedStudy recorded_;
  std::mt19937_64 random_{7};
};

bool isUnmarked(const core::CaseFinding& one, Verdict verdict) { return one.verdict == verdict && !one.marks.any(); }

// Six cases exactly at the threshold: without families 13 of 100 studies would call some of them a gain.
TEST(Families, OfManyCasesAtTheThresholdRarelyCallOneAGain) {
  Simulated simulated(support::roundsOf(5, 2), 6);
  const double at_threshold = std::log1p(0.02);
  int studies = 0;
  constexpr int kStudies = 400;
  for (int i = 0; i < kStudies; ++i) {
    const core::Judgement judged = simulated.draw({0, at_threshold}, {0.01, 0.01}, 0);
    studies += std::any_of(judged.findings.cases.begin(), judged.findings.cases.end(),
                           [](const core::CaseFinding& one) { return isUnmarked(one, Verdict::Gain); });
  }
  EXPECT_LE(studies, 5 * kStudies / 100 + 11) << "of " << kStudies << "; 2.5 standard deviations above 5 of 100";
}

// Where a next case would land is told from five cases on, and wider than their mean.
TEST(NextCase, IsToldFromFiveCases) {
  const auto next = [](std::size_t cases) {
    support::RecordedStudy recorded{support::roundsOf(4, 2)};
    while (recorded.study.cases.size() < cases) {
      recorded.study.cases.push_back(recorded.study.cases[0]);
      recorded.study.cases.back().preset = "preset " + std::to_string(recorded.study.cases.size());
    }
    recorded.record([](core::Pass& pass, const core::Slot& slot) {
      const double gain = 0.01 * static_cast<double>(slot.case_index + 1);
      pass.value = 60 * std::exp((slot.configuration == core::ConfigurationId::Changed ? gain : 0) +
                                 0.0001 * std::sin(slot.visit + slot.number));
    });
    return *recorded.judged().findings.suite;
  };
  EXPECT_FALSE(next(4).next_case);
  const core::SuiteFinding five = next(5);
  ASSERT_TRUE(five.next_case);
  // 1 to 5 %, mean 3, sd 1.58: of one more case 3 ± 2.776 x 1.58 x sqrt(6/5).
  EXPECT_NEAR(five.next_case->interval.lo, 100 * std::expm1(0.03 - 2.7764 * 0.015811 * std::sqrt(1.2)), 0.02);
  EXPECT_NEAR(five.next_case->interval.hi, 100 * std::expm1(0.03 + 2.7764 * 0.015811 * std::sqrt(1.2)), 0.02);
  EXPECT_GT(five.next_case->gain_percent, 65);
  EXPECT_LT(five.next_case->gain_percent, 75);
}

TEST(Families, AreTheSameWhereverAComparisonIsPrinted) {
  Simulated simulated(support::ladderOf(4, 1), 3);
  for (int i = 0; i < 20; ++i) {
    const core::Judgement judged = simulated.draw({0, 0.01, 0.02, 0.021}, {0.008, 0.008, 0.008, 0.008}, 0.002);
    for (const core::CaseFinding& one : judged.findings.cases) {
      std::size_t asked = 0;
      while (judged.shape.asked[asked].pair != judged.pair) ++asked;
      const core::ContrastFinding& contrast = *judged.shape.find(asked, one.case_index);
      EXPECT_EQ(one.verdict, contrast.verdict);
      EXPECT_EQ(one.marks.names(), contrast.marks.names());
      EXPECT_EQ(one.p_holm, contrast.p_holm);
      EXPECT_NEAR(one.improvement.interval->lo, contrast.improvement.interval->lo, 1e-9);
    }
    const auto unmarked =
        std::count_if(judged.findings.cases.begin(), judged.findings.cases.end(), [](const auto& one) {
          return !one.marks.not_after_adjustment_for &&
                 (one.verdict == Verdict::Gain || one.verdict == Verdict::GainSizeNotSettled);
        });
    EXPECT_EQ(judged.findings.gains(), unmarked) << "who gains is counted by the same marks";
    for (const core::ContrastFinding& one : judged.shape.contrasts)
      for (const core::ContrastFinding& other : judged.shape.contrasts) {
        const bool is_one = judged.shape.asked[one.asked].pair == judged.shape.asked[other.asked].pair;
        if (is_one && one.case_index == other.case_index) {
          EXPECT_EQ(one.p_holm, other.p_holm) << "a step from the baseline is asked twice";
        }
      }
  }
}

// A ladder of three rounds whose levels share their spread: narrower, and right where they scatter alike.
TEST(SharedSpread, NarrowsALadderAndStaysRight) {
  core::Study study = support::ladderOf(3, 1);
  Simulated own(study, 1);
  study.plan.spread = core::Spread::Shared;
  Simulated shared(study, 1);
  const std::vector<double> truth{0, 0.02, 0.03, 0.035};
  double own_width = 0;
  double shared_width = 0;
  int right = 0;
  constexpr int kStudies = 400;
  for (int i = 0; i < kStudies; ++i) {
    const auto interval = [&](Simulated& simulated) {
      return *simulated.draw(truth, {0.01, 0.01, 0.01, 0.01}, 0).findings.cases[0].improvement.interval;
    };
    const core::PercentInterval of_own = interval(own);
    const core::PercentInterval of_shared = interval(shared);
    own_width += of_own.hi - of_own.lo;
    shared_width += of_shared.hi - of_shared.lo;
    const double percent = 100 * std::expm1(truth[3] - truth[0]);
    right += of_shared.lo <= percent && percent <= of_shared.hi;
  }
  EXPECT_LT(shared_width, 0.75 * own_width);
  EXPECT_GE(right, 93 * kStudies / 100);
}

// What is said of the spread is said only where it holds: of rounds, and of more than two configurations.
TEST(SharedSpread, IsOfRoundsOfMoreThanTwo) {
  core::Study study = support::ladderOf(3, 1);
  EXPECT_FALSE(study.sharesSpread()) << "unless the plan says so";
  study.plan.spread = core::Spread::Shared;
  EXPECT_TRUE(study.sharesSpread());
  study.plan.order = core::Order::Blocked;
  EXPECT_FALSE(study.sharesSpread());
  core::Study pair = support::roundsOf(3);
  pair.plan.spread = core::Spread::Shared;
  EXPECT_FALSE(pair.sharesSpread());
}

TEST(SharedSpread, SaysWhichLevelScattersUnlikeTheOthers) {
  core::Study study = support::ladderOf(8, 1);
  study.plan.spread = core::Spread::Shared;
  Simulated simulated(study, 1);
  int told = 0;
  for (int i = 0; i < 20; ++i)
    for (const core::Doubt& doubt : simulated.draw({0, 0.1, 0.2, 0.3}, {0.002, 0.03, 0.002, 0.002}, 0).doubts)
      if (doubt.id.starts_with("uneven_spread")) {
        EXPECT_NE(doubt.sentence.find("passes at Gen 2 scatter unlike"), std::string::npos) << doubt.sentence;
        ++told;
      }
  EXPECT_GE(told, 15);
}

// Of clean studies of six cases at most about one in twenty shows any doubt of one kind.
TEST(Quality, DoubtsOfCleanStudiesAreRareWhateverTheNumberOfCases) {
  Simulated simulated(support::roundsOf(6, 3), 6);
  std::map<std::string, int> told;
  constexpr int kStudies = 300;
  for (int i = 0; i < kStudies; ++i) {
    std::set<std::string> kinds;
    for (const core::Doubt& doubt : simulated.draw({0, 0.05}, {0.01, 0.01}, 0.004).doubts) kinds.insert(doubt.kind->id);
    for (const char* kind : {"drift", "odd_passes", "odd_visit", "warm_up"})
      told[kind] += static_cast<int>(kinds.count(kind));
  }
  for (const auto& [kind, times] : told) EXPECT_LE(times, 5 * kStudies / 100 + 12) << kind << " of " << kStudies;
}

TEST(Quality, ThePOfAnOddPassIsThatOfItsCut) {
  for (const auto& [n, cut] : {std::pair{5U, 7.92}, {8U, 4.92}, {12U, 4.37}, {20U, 3.99}})
    EXPECT_NEAR(core::oddP(n, cut), 0.05, 1e-9);
  EXPECT_EQ(core::oddP(9, 1), 1);
  EXPECT_LT(core::oddP(9, 1000), 1e-4);
  EXPECT_LT(core::oddP(9, 6), core::oddP(9, 5));
}

}  // namespace
