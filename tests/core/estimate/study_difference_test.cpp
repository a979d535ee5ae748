#include "core/estimate/study_difference.h"

#include <gtest/gtest.h>

#include <cmath>
#include <limits>
#include <random>

#include "core/estimate/effect.h"

namespace {

/// One study of a change whose truth is `effect` (ln): rounds with flips that scatter, passes that scatter.
core::StudyEffect measured(std::mt19937& random, double effect, int rounds, double flip_sd, double pass_sd) {
  std::normal_distribution<double> normal;
  std::vector<core::VisitValues> visits;
  for (int round = 1; round <= rounds; ++round)
    for (int level = 0; level < 2; ++level) {
      core::VisitValues visit{core::configurationAt(static_cast<std::size_t>(level)), 2 * round + level, round, {}};
      const double middle = std::log(100) + level * effect + flip_sd * normal(random);
      for (int pass = 0; pass < 2; ++pass) visit.values.push_back(std::exp(middle + pass_sd * normal(random)));
      visits.push_back(visit);
    }
  const auto found = core::effectOf(visits, 0.95);
  return {found->contrast.difference, *found->contrast.se, found->contrast.inference->df};
}

TEST(StudyDifferences, HoldTheTruthAsOftenAsTheySay) {
  constexpr int kPairs = 2000;
  constexpr double kThen = 0.03;
  constexpr double kNow = 0.05;
  std::mt19937 random(31);
  int holds = 0;
  for (int i = 0; i < kPairs; ++i) {
    const auto first = measured(random, kThen, 5, 0.006, 0.004);
    const auto second = measured(random, kNow, 8, 0.003, 0.004);
    const auto difference = core::studyDifference(first, second, 0.95);
    ASSERT_TRUE(difference.ok() && difference->inference);
    holds += difference->inference->lo <= kNow - kThen && kNow - kThen <= difference->inference->hi;
  }
  EXPECT_GE(holds, 0.935 * kPairs);
  EXPECT_LE(holds, 0.965 * kPairs);
}

TEST(StudyDifferences, RefuseWhatIsNoEffect) {
  constexpr double kNone = std::numeric_limits<double>::quiet_NaN();
  const core::StudyEffect fine{0.04, 0.004, 4};
  for (const core::StudyEffect& bad : {core::StudyEffect{kNone, 0.004, 4}, {0.04, -1, 4}, {0.04, 0.004, 0}})
    EXPECT_EQ(core::studyDifference(fine, bad, 0.95).error().kind, core::ErrorKind::OutOfRange);
  EXPECT_EQ(core::studyDifference(fine, fine, 1).error().kind, core::ErrorKind::OutOfRange);
  // Neither scatters: how sure it is nobody knows.
  EXPECT_FALSE(core::studyDifference({0.04, 0, 4}, {0.05, 0, 4}, 0.95)->inference);
}

}  // namespace
