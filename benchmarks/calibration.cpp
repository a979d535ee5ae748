// Are the intervals as good as they say? Simulates studies of each design under each kind of noise and counts how often the 95 %
// interval holds the truth, and how often a change of nothing is called a gain or a loss. Prints the table of docs/method.md.
//   calibration_benchmark [STUDIES]
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <functional>
#include <random>
#include <string>
#include <vector>

#include <fmt/format.h>

#include "core/estimate/effect.h"
#include "core/estimate/null_study.h"
#include "core/estimate/verdict.h"
#include "core/study/schedule.h"
#include "core/values/percent.h"

namespace {

using core::ConfigurationId;

constexpr double kTruth = 0.02;   // ln scale
constexpr double kPassSd = 0.01;  // from pass to pass
constexpr double kThresholdPercent = 1;

// What moves a result besides the change.
struct Noise {
  const char* name;
  double flip_sd = 0;           // of each visit
  double drift_per_pass = 0;    // ln, from one pass to the next
  double correlation = 0;       // of a pass with the one before it
  bool is_heavy_tailed = false; // t with 3 degrees of freedom, the same sd
};
constexpr Noise kNoises[] = {{"passes only"},
                             {"flips of 0.5 %", 0.005},
                             {"drift of 0.1 % a pass", 0, 0.001},
                             {"correlated passes, 0.5", 0, 0, 0.5},
                             {"heavy tails", 0, 0, 0, true}};

struct Design {
  const char* name;
  core::Plan plan;
  bool has_null = false;  // eight null visits as long as the study's
};

class Bench {
 public:
  Bench(const Noise& noise, std::mt19937_64& random) : noise_(noise), random_(random) {}
  // A visit of so many passes at a level, in the metric's own unit.
  std::vector<double> visit(int passes, double level) {
    const double flip = noise_.flip_sd * normal_(random_);
    std::vector<double> values;
    for (int i = 0; i < passes; ++i) values.push_back(100 * std::exp(level + flip + pass()));
    return values;
  }

 private:
  double pass() {
    const double fresh = noise_.is_heavy_tailed ? tailed_(random_) / std::sqrt(3.0) : normal_(random_);
    const double rho = noise_.correlation;
    last_ = rho * last_ + std::sqrt(1 - rho * rho) * fresh;
    return kPassSd * last_ + noise_.drift_per_pass * passes_++;
  }
  const Noise& noise_;
  std::mt19937_64& random_;
  std::normal_distribution<double> normal_;
  std::student_t_distribution<double> tailed_{3};
  double last_ = 0;
  int passes_ = 0;
};

std::vector<core::VisitValues> study(const Design& design, Bench& bench, double truth, int seed) {
  core::Plan plan = design.plan;
  if (plan.order == core::Order::BalancedShuffle) plan.drawn = core::drawRounds(2, plan.rounds, seed);
  std::vector<core::VisitValues> visits;
  const bool has_rounds = plan.order == core::Order::BalancedShuffle;
  for (const core::PlannedVisit& one : core::visitsOf(plan, 2))
    visits.push_back({one.configuration, one.number, has_rounds ? one.round : 0,
                      bench.visit(one.passes, one.configuration == ConfigurationId::Changed ? truth : 0)});
  return visits;
}

std::optional<core::Effect> effectOf(const Design& design, const Noise& noise, double truth, std::mt19937_64& random, int seed) {
  Bench bench(noise, random);
  std::optional<core::FlipSd> flip;
  std::vector<std::vector<double>> null_visits;
  for (int i = 0; design.has_null && i < 8; ++i) null_visits.push_back(bench.visit(design.plan.passes_per_level, 0));
  const auto visits = study(design, bench, truth, seed);
  if (design.has_null)
    if (const auto null_study = core::nullStudy(null_visits)) flip = core::flipSdFrom(*null_study, visits);
  const auto effect = core::effectOf(visits, 0.95, flip);
  return effect ? std::optional(*effect) : std::nullopt;
}

core::Plan planOf(core::Order order, int passes_or_rounds, int passes_per_visit) {
  core::Plan plan;
  plan.order = order;
  plan.passes_per_level = plan.rounds = passes_or_rounds;
  plan.passes_per_visit = passes_per_visit;
  return plan;
}

}  // namespace

int main(int count, char** words) {
  const int studies = count > 1 ? std::atoi(words[1]) : 4000;
  const Design designs[] = {{"`rounds`, 5 of 2 passes", planOf(core::Order::BalancedShuffle, 5, 2)},
                            {"`rounds`, 3 of 2 passes", planOf(core::Order::BalancedShuffle, 3, 2)},
                            {"`visits`, there and back, 6 + 6", planOf(core::Order::ThereAndBack, 6, 1)},
                            {"`passes`, 5 + 5, flips unseen", planOf(core::Order::Blocked, 5, 1)},
                            {"`passes`, 5 + 5, null study of 8", planOf(core::Order::Blocked, 5, 1), true}};
  std::mt19937_64 random(20240301);
  fmt::print("| noise | design | 95 % interval holds the truth | nothing called a gain or a loss |\n| --- | --- | ---: | ---: |\n");
  for (const Noise& noise : kNoises)
    for (const Design& design : designs) {
      int held = 0;
      int alarms = 0;
      for (int i = 0; i < studies; ++i) {
        const auto changed = effectOf(design, noise, kTruth, random, i);
        if (changed && changed->contrast.inference)
          held += changed->contrast.inference->lo <= kTruth && kTruth <= changed->contrast.inference->hi;
        const auto same = effectOf(design, noise, 0, random, i + studies);
        if (!same) continue;
        const core::Verdict verdict =
            core::verdictOf(core::improvementPercent(*same, core::Direction::HigherIsBetter).interval,
                            core::noticeThreshold(kThresholdPercent));
        alarms += verdict == core::Verdict::Gain || verdict == core::Verdict::Loss;
      }
      fmt::print("| {} | {} | {:.1f} % | {:.2f} % |\n", noise.name, design.name, 100.0 * held / studies, 100.0 * alarms / studies);
      std::fflush(stdout);
    }
}
