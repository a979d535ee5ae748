// A change with the drift taken out, on a bench whose truth is known.
#include <cmath>
#include <random>
#include <vector>

#include <gtest/gtest.h>

#include "core/estimate/quality.h"

namespace {

struct Told {
  int as_it_is = 0;
  int without_drift = 0;
};

// How often intervals hold a true change of 3 % where the bench slows by 2 % an hour, in the order that is given.
Told heldOf(const std::vector<int>& order, int studies) {
  std::mt19937_64 random(20261130);
  std::normal_distribution<double> noise(0, 0.01);
  Told told;
  for (int study = 0; study < studies; ++study) {
    std::vector<core::TimedPass> passes;
    std::vector<core::VisitValues> visits;
    for (std::size_t i = 0; i < order.size(); ++i) {
      const double hours = 0.5 * static_cast<double>(i);
      const double value = 60 * std::exp((order[i] == 1 ? std::log(1.03) : 0) - 0.02 * hours + noise(random));
      const int number = static_cast<int>(i) + 1;
      passes.push_back({number, order[i], hours, value});
      visits.push_back({core::configurationAt(static_cast<std::size_t>(order[i])), number, 0, {value}});
    }
    const auto change = core::effectOf(visits, 0.95);
    const core::Drift drift = core::driftOf(passes, 0, 1, 0.95);
    const auto holds = [](const core::Contrast& one) {
      return one.inference && one.inference->lo <= std::log(1.03) && std::log(1.03) <= one.inference->hi;
    };
    told.as_it_is += holds(change->contrast);
    told.without_drift += holds(core::withDriftOut(change->contrast, drift, 0.95));
  }
  return told;
}

TEST(DriftTakenOut, HoldsTheTruthWhereTheOrderDidNotCancelIt) {
  constexpr int kStudies = 2000;
  // All of the baseline comes first but for one visit.
  const Told told = heldOf({0, 0, 0, 1, 0, 1, 1, 1}, kStudies);
  EXPECT_LT(told.as_it_is, 0.75 * kStudies) << "the drift is in it";
  EXPECT_GT(told.without_drift, 0.935 * kStudies);
  EXPECT_LT(told.without_drift, 0.965 * kStudies);
}

TEST(DriftTakenOut, ChangesNothingWhereTheOrderCancelledIt) {
  std::vector<core::TimedPass> passes;
  int number = 0;
  for (const int level : {0, 1, 1, 0})
    passes.push_back({++number, level, static_cast<double>(number), 60.0 + level + 0.01 * std::pow(number, 2)});
  const core::Drift drift = core::driftOf(passes, 0, 1, 0.95);
  EXPECT_NEAR(drift.exposure_hours, 0, 1e-12);
  EXPECT_NEAR(core::withDriftOut(core::contrastFrom(0.02, 0.01, 2, 0.95), drift, 0.95).difference, 0.02, 1e-12);
}

}  // namespace
