#include "core/estimate/effect.h"
#include "core/estimate/quality.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "core/estimate/suite.h"
#include "core/estimate/tipping.h"
#include "core/estimate/verdict.h"
#include "core/values/percent.h"

namespace {

using core::ConfigurationId;
using core::VisitValues;

std::vector<VisitValues> thereAndBack(std::uint64_t seed, double change = 1.05) {
  std::mt19937_64 engine(seed);
  std::normal_distribution<double> noise(0, 0.01);
  std::vector<VisitValues> visits{{ConfigurationId::Baseline, 1, 1, {}},
                                  {ConfigurationId::Changed, 2, 1, {}},
                                  {ConfigurationId::Changed, 3, 2, {}},
                                  {ConfigurationId::Baseline, 4, 2, {}}};
  for (VisitValues& visit : visits)
    for (int i = 0; i < 4; ++i)
      visit.values.push_back(100 * (visit.configuration == ConfigurationId::Changed ? change : 1) *
                             std::exp(noise(engine)));
  return visits;
}

core::Effect effectOf(const std::vector<VisitValues>& visits) {
  const auto effect = core::effectOf(visits, 0.95);
  EXPECT_TRUE(effect.ok());
  return *effect;
}

TEST(Effect, SwappingTheLevelsTurnsTheSign) {
  auto visits = thereAndBack(3);
  const core::Effect forth = effectOf(visits);
  for (VisitValues& visit : visits)
    visit.configuration =
        visit.configuration == ConfigurationId::Baseline ? ConfigurationId::Changed : ConfigurationId::Baseline;
  const core::Effect back = effectOf(visits);
  EXPECT_NEAR(forth.contrast.difference, -back.contrast.difference, 1e-14);  // sums in another order
  EXPECT_NEAR(forth.contrast.inference->lo, -back.contrast.inference->hi, 1e-13);
}

TEST(Effect, IgnoresTheUnit) {
  auto visits = thereAndBack(4);
  const double d = effectOf(visits).contrast.difference;
  for (VisitValues& visit : visits)
    for (double& value : visit.values) value *= 1000;
  EXPECT_NEAR(effectOf(visits).contrast.difference, d, 1e-13);  // ln(1000 x) - ln(1000 y), rounded
}

TEST(Effect, RateAndTimeTellTheSameImprovement) {
  const auto rates = thereAndBack(5);
  auto times = rates;
  for (VisitValues& visit : times)
    for (double& value : visit.values) value = 1000 / value;
  const auto faster = core::improvementPercent(effectOf(rates), core::Direction::HigherIsBetter);
  const auto shorter = core::improvementPercent(effectOf(times), core::Direction::LowerIsBetter);
  EXPECT_NEAR(faster.value, shorter.value, 1e-10);
  EXPECT_NEAR(faster.interval->lo, shorter.interval->lo, 1e-10);
  EXPECT_LT(shorter.interval->lo, shorter.interval->hi);
}

TEST(Effect, CoversTheTruthAsOftenAsItSays) {
  int covered = 0;
  constexpr int kStudies = 2000;
  for (int seed = 0; seed < kStudies; ++seed) {
    const auto interval = effectOf(thereAndBack(static_cast<std::uint64_t>(seed) + 1000)).contrast.inference;
    covered += interval->lo <= std::log(1.05) && std::log(1.05) <= interval->hi ? 1 : 0;
  }
  EXPECT_NEAR(static_cast<double>(covered) / kStudies, 0.95, 0.015);  // three binomial sd
}

TEST(Effect, NeedsAPassAtEachLevel) {
  const std::vector<VisitValues> visits{{ConfigurationId::Baseline, 1, 1, {100}}};
  const auto effect = core::effectOf(visits, 0.95);
  ASSERT_FALSE(effect.ok());
  EXPECT_EQ(effect.error().kind, core::ErrorKind::TooFew);
  EXPECT_EQ(effect.error().where, "configuration 2");
}

TEST(Effect, RefusesAConfidenceOfOne) { EXPECT_EQ(core::effectOf(thereAndBack(1), 1.0).error().where, "confidence"); }

TEST(Contrast, RefusesWhatItCannotWeigh) {
  const auto refusal = [](std::vector<std::vector<double>> at, std::vector<double> weights,
                          core::Estimator estimator = core::Estimator::Passes) {
    return core::contrastOf({estimator, std::move(at)}, weights, 0.95).error().where;
  };
  EXPECT_EQ(refusal({{1, 2}, {1, std::nan("")}}, {-1, 1}), "configuration 2, value 2");
  EXPECT_EQ(refusal({{1, 2}, {1, 2}}, {-1, 2}), "weights");
  EXPECT_EQ(refusal({{1, 2}, {1, 2}}, {0, 0}), "weights");
  EXPECT_EQ(refusal({{1, 2}}, {-1, 1}), "weights");
  EXPECT_EQ(refusal({{1, 2, 3}, {1, 2}}, {-1, 1}, core::Estimator::Rounds), "configuration 2");
  const std::vector<double> three{-1, 0, 1};  // and flips that are known of two
  EXPECT_EQ(core::contrastOf({core::Estimator::Passes, {{1, 2}, {1, 2}, {1, 2}}}, three, 0.95, core::FlipSd{0.1})
                .error()
                .where,
            "flips");
}

// The order in which configurations, visits and rounds come says nothing.
TEST(Contrast, IsTheSameInAnyOrderOfItsVisits) {
  std::mt19937_64 engine(3);
  std::normal_distribution<double> noise(0, 0.01);
  std::vector<VisitValues> visits;
  for (int round = 1; round <= 5; ++round)
    for (std::uint16_t place = 0; place < 4; ++place)
      visits.push_back({static_cast<core::ConfigurationId>(place),
                        static_cast<int>(visits.size()) + 1,
                        round,
                        {100 * std::exp(0.02 * place + noise(engine)), 100 * std::exp(0.02 * place + noise(engine))}});
  const std::vector<double> weights{1, -1, -1, 1};
  const auto first = core::weightedEffectOf(visits, weights, 0.95);
  ASSERT_TRUE(first.ok());
  EXPECT_EQ(first->design.estimator, core::Estimator::Rounds);
  std::shuffle(visits.begin(), visits.end(), engine);
  std::erase_if(visits,
                [](const VisitValues& visit) { return visit.round == 4 && core::placeOf(visit.configuration) == 2; });
  const auto fewer = core::weightedEffectOf(visits, weights, 0.95);
  EXPECT_EQ(fewer->design.complete_rounds, 4);
  EXPECT_EQ(fewer->design.incomplete_rounds, 1);
  std::shuffle(visits.begin(), visits.end(), engine);
  const auto again = core::weightedEffectOf(visits, weights, 0.95);
  EXPECT_EQ(again->contrast.difference, fewer->contrast.difference);
  EXPECT_EQ(again->contrast.inference->lo, fewer->contrast.inference->lo);
}

TEST(Tipping, IsTheFlipSdThatBringsTheEndToZero) {
  const std::vector<VisitValues> visits{{ConfigurationId::Baseline, 1, 0, {100, 101, 99, 100.5}},
                                        {ConfigurationId::Changed, 2, 0, {104, 105, 103.5, 104.2}}};
  const core::Effect effect = effectOf(visits);
  const double sd = core::tippingFlipSd(effect, 0).value();
  const double se = std::sqrt(*effect.contrast.se * *effect.contrast.se + 2 * sd * sd);
  EXPECT_NEAR(effect.contrast.difference - effect.contrast.inference->t_quantile * se, 0, 1e-12);
}

TEST(Tipping, DoesNotApplyWhereFlipsWereSeen) {
  EXPECT_FALSE(core::tippingFlipSd(effectOf(thereAndBack(1)), 0).has_value());
}

TEST(Verdict, MirrorsWhenGainAndLossAreSwapped) {
  using core::Verdict;
  const auto mirrored = [](Verdict verdict) {
    if (verdict == Verdict::Gain) return Verdict::Loss;
    if (verdict == Verdict::GainSizeNotSettled) return Verdict::LossSizeNotSettled;
    return verdict;
  };
  for (double lo = -0.1; lo <= 0.1; lo += 0.0013)  // ln scale, where gain and loss are symmetric; no end meets a bound
    for (double hi = lo + 0.0007; hi <= 0.11; hi += 0.0031) {
      const Verdict up = core::verdictOf(core::PercentInterval{core::percentOfLn(lo), core::percentOfLn(hi)},
                                         core::noticeThreshold(2));
      if (up == Verdict::Loss || up == Verdict::LossSizeNotSettled) continue;
      EXPECT_EQ(core::verdictOf(core::PercentInterval{core::percentOfLn(-hi), core::percentOfLn(-lo)},
                                core::noticeThreshold(2)),
                mirrored(up))
          << lo << " to " << hi;
    }
}

TEST(Suite, OfEqualCasesIsTheCase) {
  const auto visits = thereAndBack(8);
  const std::vector<core::SuiteCase> cases(3, {core::Direction::HigherIsBetter, visits});
  const auto suite = core::summarizeSuite(cases, 0.95);
  ASSERT_TRUE(suite.ok());
  const core::Effect one = effectOf(visits);
  EXPECT_NEAR(suite->this_suite.difference, one.contrast.difference, 1e-14);
  EXPECT_NEAR(*suite->this_suite.se, *one.contrast.se, 1e-14);  // cases that share their flips do not narrow it
}

TEST(Suite, LeavesOutAVisitThatOneCaseLacks) {
  auto lacking = thereAndBack(9);
  lacking[3].values.clear();
  const std::vector<core::SuiteCase> cases{{core::Direction::HigherIsBetter, thereAndBack(8)},
                                           {core::Direction::HigherIsBetter, lacking}};
  const auto suite = core::summarizeSuite(cases, 0.95);
  ASSERT_TRUE(suite.ok());
  EXPECT_EQ(suite->design.visits[0], 1);
  EXPECT_EQ(suite->design.estimator, core::Estimator::Passes);
}

TEST(Effects, LoseNoLogarithmToAZeroThatIsNotCounted) {
  std::vector<core::VisitValues> visits;
  for (int round = 1; round <= 4; ++round) {
    visits.push_back({core::ConfigurationId::Baseline, 2 * round, round, {50.0 + 0.1 * round}});
    if (round < 4) visits.push_back({core::ConfigurationId::Changed, 2 * round + 1, round, {55.0}});
  }
  visits[6].values = {0};  // the fourth round lost its other visit: it is left out
  const auto effect = core::effectOf(visits, 0.95);
  ASSERT_TRUE(effect.ok());
  EXPECT_EQ(effect->design.estimator, core::Estimator::Rounds);
  EXPECT_TRUE(effect->is_log);
  EXPECT_NEAR(core::percentChangeOf(effect->contrast).value, 9.56, 0.05);
  visits[0].values = {0};
  EXPECT_FALSE(core::effectOf(visits, 0.95)->is_log);
}

// Said where chance alone would do as much in less than one study of twenty, and not before.
TEST(Drifts, AreSaidAtFivePercent) {
  int said = 0;
  int unsaid = 0;
  for (double slope = 0; slope < 0.02; slope += 0.0002) {
    std::vector<core::TimedPass> passes;
    for (int i = 0; i < 10; ++i)
      passes.push_back({i, i / 2 % 2, 0.5 * i, 100 * std::exp(slope * 0.5 * i + 0.004 * (i * i % 7 - 3))});
    const core::Drift drift = core::driftOf(passes, 0, 1, 0.95);
    ASSERT_TRUE(drift.is_estimable);
    if (drift.p > 0.02 && drift.p < 0.045) said += drift.is_flagged ? 1 : -1000;
    if (drift.p > 0.055 && drift.p < 0.2) unsaid += drift.is_flagged ? -1000 : 1;
  }
  EXPECT_GT(said, 0);
  EXPECT_GT(unsaid, 0);
}

TEST(Drifts, HaveTheirEndsInOrderAndTheirOwnSpan) {
  std::vector<core::TimedPass> passes;
  for (int i = 0; i < 8; ++i)  // the changed level comes first each time: its exposure is negative
    passes.push_back({i, i % 2 == 0 ? 1 : 0, 0.5 * i, 100 + 0.4 * i + (i % 3 == 0 ? 0.05 : 0)});
  const core::Drift drift = core::driftOf(passes, 0, 1, 0.95);
  EXPECT_LT(drift.exposure_hours, 0);
  EXPECT_LT(drift.biasLo(), drift.biasHi());
  EXPECT_DOUBLE_EQ(drift.span_hours, 3.5);
  // A visit of the same number at another level is another visit.
  for (core::TimedPass& pass : passes) pass.visit /= 2;
  EXPECT_EQ(core::driftOf(passes, 0, 1, 0.95).visits, 8);
}

// A number whose square is none any more must not end the program: such a study may come from anybody.
TEST(Effects, OfValuesBeyondAllNumbersHaveNoInterval) {
  for (const double scale : {1e100, 1e160, 1e300}) {
    std::vector<core::VisitValues> visits;
    visits.push_back({core::ConfigurationId::Baseline, 1, 0, {scale, 2 * scale, 1.5 * scale}});
    visits.push_back({core::ConfigurationId::Changed, 2, 0, {3 * scale, 2 * scale}});
    const auto effect = core::effectOf(visits, 0.95, {}, core::Scale::Difference);
    ASSERT_TRUE(effect);
    EXPECT_EQ(effect->contrast.no_interval, core::NoInterval::BeyondNumbers) << scale;
    EXPECT_FALSE(effect->contrast.inference);
  }
}

}  // namespace
