// A second, naive implementation beside each estimator: written from the definition, slow, without shared code.
#include <gtest/gtest.h>

#include <algorithm>
#include <boost/math/distributions/students_t.hpp>
#include <cmath>
#include <random>

#include "core/estimate/effect.h"
#include "core/estimate/holm.h"
#include "core/estimate/spread.h"
#include "core/frames/frame_metrics.h"

namespace {

using core::ConfigurationId;
using core::VisitValues;

// Two sums in another order: the last digits of a double differ.
constexpr double kSameSum = 1e-10;

double mean(const std::vector<double>& v) {
  long double sum = 0;
  for (const double x : v) sum += x;
  return static_cast<double>(sum / static_cast<long double>(v.size()));
}

double variance(const std::vector<double>& v) {
  long double sum = 0;
  for (const double x : v) sum += static_cast<long double>(x - mean(v)) * (x - mean(v));
  return static_cast<double>(sum / static_cast<long double>(v.size() - 1));
}

double halfWidth(double se, double df) { return boost::math::quantile(boost::math::students_t(df), 0.975) * se; }

/// `count` visits of three passes, the levels in turn, around `baseline` and 5 % above it.
std::vector<VisitValues> draw(int count, bool has_rounds, unsigned seed) {
  std::mt19937 engine(seed);
  std::normal_distribution<double> noise(0, 0.01);
  std::vector<VisitValues> visits;
  for (int i = 0; i < count; ++i) {
    const ConfigurationId configuration = i % 2 == 0 ? ConfigurationId::Baseline : ConfigurationId::Changed;
    VisitValues visit{configuration, i + 1, has_rounds ? i / 2 + 1 : 0, {}};
    for (int n = 0; n < 3; ++n)
      visit.values.push_back((configuration == ConfigurationId::Baseline ? 60 : 63) * std::exp(noise(engine)));
    visits.push_back(visit);
  }
  return visits;
}

std::vector<double> logs(const std::vector<double>& values) {
  std::vector<double> result;
  for (const double value : values) result.push_back(std::log(value));
  return result;
}

TEST(NaiveEstimators, AgreeOnRounds) {
  for (unsigned seed = 1; seed <= 20; ++seed) {
    const auto visits = draw(8, true, seed);
    std::vector<double> differences;
    for (std::size_t i = 0; i < visits.size(); i += 2)
      differences.push_back(mean(logs(visits[i + 1].values)) - mean(logs(visits[i].values)));
    const auto effect = core::effectOf(visits, 0.95);
    ASSERT_TRUE(effect.ok());
    EXPECT_EQ(effect->design.estimator, core::Estimator::Rounds);
    EXPECT_NEAR(effect->contrast.difference, mean(differences), kSameSum);
    EXPECT_NEAR(effect->contrast.inference->hi, mean(differences) + halfWidth(std::sqrt(variance(differences) / 4), 3),
                kSameSum);
  }
}

TEST(NaiveEstimators, AgreeOnVisits) {
  for (unsigned seed = 1; seed <= 20; ++seed) {
    const auto visits = draw(4, false, seed);
    std::vector<double> a;
    std::vector<double> b;
    for (const VisitValues& visit : visits)
      (visit.configuration == ConfigurationId::Baseline ? a : b).push_back(mean(logs(visit.values)));
    const double pooled = (variance(a) + variance(b)) / 2;
    const auto effect = core::effectOf(visits, 0.95);
    ASSERT_TRUE(effect.ok());
    EXPECT_EQ(effect->design.estimator, core::Estimator::Visits);
    EXPECT_NEAR(effect->contrast.inference->lo, mean(b) - mean(a) - halfWidth(std::sqrt(pooled), 2), kSameSum);
  }
}

TEST(NaiveEstimators, AgreeOnPasses) {
  for (unsigned seed = 1; seed <= 20; ++seed) {
    const auto visits = draw(2, false, seed);
    const std::vector<double> a = logs(visits[0].values);
    const std::vector<double> b = logs(visits[1].values);
    const double va = variance(a) / 3;
    const double vb = variance(b) / 3;
    const double df = (va + vb) * (va + vb) / (va * va / 2 + vb * vb / 2);
    const auto effect = core::effectOf(visits, 0.95);
    ASSERT_TRUE(effect.ok());
    EXPECT_TRUE(effect->isFlipUnseen());
    EXPECT_NEAR(effect->contrast.inference->df, df, df * kSameSum);
    EXPECT_NEAR(effect->contrast.inference->lo, mean(b) - mean(a) - halfWidth(std::sqrt(va + vb), df), kSameSum);
  }
}

TEST(NaiveEstimators, AgreeOnTheRunToRunSpread) {
  const auto visits = draw(6, false, 7);
  double squares = 0;
  for (const VisitValues& visit : visits) squares += 2 * variance(logs(visit.values));
  const double s2 = squares / 12;
  const auto spread = core::runToRunSpread(visits);
  ASSERT_TRUE(spread);
  EXPECT_EQ(spread->df, 12);
  EXPECT_NEAR(spread->percent, 100 * std::sqrt(std::exp(s2) - 1), 1e-9);
}

TEST(NaiveLows, AgreeInEverySchool) {
  std::mt19937 engine(11);
  std::lognormal_distribution<double> frames(2.8, 0.3);
  std::vector<double> d;
  for (int i = 0; i < 3000; ++i) d.push_back(frames(engine));
  const auto metrics = core::frameMetrics(d, std::vector<double>{1.0});
  ASSERT_TRUE(metrics.ok());
  std::sort(d.rbegin(), d.rend());
  double slowest_sum = 0;
  for (int i = 0; i < 30; ++i) slowest_sum += d[static_cast<std::size_t>(i)];
  EXPECT_NEAR(metrics->lows[0].slowest_mean.fps, 30000 / slowest_sum, 1e-9);
  double total = 0;
  for (const double x : d) total += x;
  double reached = 0;
  std::size_t k = 0;
  while (reached < 0.01 * total) reached += d[k++];
  EXPECT_NEAR(metrics->lows[0].time_share.fps, 1000 / d[k - 1], 1e-9);
  EXPECT_EQ(metrics->lows[0].time_share.frames, k);
  // h = (n - 1) q from below is (n - 1)(1 - q) from above: between the 30th and the 31st slowest.
  const double h = 2999 * 0.01;
  const double quantile = d[29] + (h - 29) * (d[30] - d[29]);
  EXPECT_NEAR(metrics->lows[0].percentile.fps, 1000 / quantile, 1e-9);
}

TEST(Holm, NeverReordersAndNeverShrinks) {
  std::mt19937 engine(3);
  std::uniform_real_distribution<double> p(0, 1);
  for (int trial = 0; trial < 50; ++trial) {
    std::vector<std::optional<double>> raw;
    for (int i = 0; i < 8; ++i) raw.push_back(i == 3 ? std::nullopt : std::optional(p(engine) * p(engine)));
    const auto adjusted = core::holmAdjusted(raw);
    ASSERT_EQ(adjusted.size(), raw.size());
    EXPECT_FALSE(adjusted[3]);
    for (std::size_t i = 0; i < raw.size(); ++i) {
      if (!raw[i]) continue;
      EXPECT_GE(*adjusted[i], *raw[i]);
      for (std::size_t k = 0; k < raw.size(); ++k) {
        if (raw[k] && *raw[i] < *raw[k]) {
          EXPECT_LE(*adjusted[i], *adjusted[k]);
        }
      }
    }
  }
}

}  // namespace
