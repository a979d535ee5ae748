#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/estimate/claims.h"
#include "core/estimate/suite.h"
#include "core/estimate/verdict.h"
#include "core/study/study.h"

namespace core {

/// Several cases summed up, with the verdict on them.
struct SuiteFinding : Claimed {
  SuiteSummary summary;
  PercentChange improvement;
  PercentChange cases_like_these;
  /// Where a next case of this kind would probably land, and the share of such cases that would gain as much as
  /// matters; with five cases or more.
  struct Next {
    PercentInterval interval;
    double gain_percent = 0;
  };
  std::optional<Next> next_case;
  NoticeThreshold threshold;
  std::vector<std::size_t> cases;  ///< that it sums up, by index among the study's
};

/// A case of a suite with what it can be grouped by.
struct NamedSuiteCase {
  std::size_t case_index = 0;
  std::string title;
  std::string workload;
  std::string preset;
  std::string audience;
  bool is_synthetic = false;
  bool is_bound_elsewhere = false;
  std::optional<PercentChange> improvement;  ///< as its finding has it; absent where it has none
  NoticeThreshold threshold;                 ///< the same
  std::optional<double> frame_ms;            ///< at the baseline, geometric mean; nothing where it counts no frames
  SuiteCase values;
};

/// How an effect changes from the first preset to the last: never a gain or a loss itself.
struct PresetTrend {
  std::string first;
  std::string last;
  int workloads = 0;     ///< that have both
  PercentChange change;  ///< of the improvement, last against first: a ratio of ratios
  PercentChange points;  ///< the same in percentage points, the first preset's own improvement taken as it is
};

/// A part of the suite summed up by the suite's rules.
struct SuiteReading {
  std::string name;  ///< "4K dome", "Ring pass", "real work"
  int cases = 0;
  PercentChange improvement;
  NoticeThreshold threshold;
  Verdict verdict = Verdict::NotSettled;
  Contrast contrast = {};  ///< improvement, ln scale
};

/// One suite, read the ways people need it.
struct SuiteReadings {
  std::vector<SuiteReading> presets;                    ///< in their order; only where one has several cases
  std::vector<SuiteReading> workloads;                  ///< the same
  std::vector<SuiteReading> kinds;                      ///< real work, and synthetic; only where there are both
  std::vector<SuiteReading> audiences;                  ///< each that a case names; only where there are several
  std::optional<SuiteReading> without_bound_elsewhere;  ///< where any is bound elsewhere
  std::optional<PresetTrend> trend;                     ///< where a workload has both the first preset and the last
  /// "without Ring pass, 4K dome", where the suite's verdict or its sign depends on that one case; the strongest first.
  /// Empty where every case would: then none carries it.
  std::vector<SuiteReading> without_one;
  std::size_t worst_case = 0;         ///< by index among the study's cases
  bool has_no_loss_anywhere = false;  ///< the lower end of every case is above the equally large loss
  int better = 0;                     ///< cases whose estimate is an improvement
  int moved = 0;                      ///< cases whose estimate is not exactly 0
  double sign_p = 1;                  ///< two-sided; cases that share their flips are not independent
  [[nodiscard]] bool doSyntheticAndRealDisagree() const;
};

/// How long a frame of each lasts at the baseline.
[[nodiscard]] std::vector<std::optional<double>> frameMsOf(std::span<const NamedSuiteCase> cases);

/// Source  rules of the suite on the subsets; intersection–union for "no loss anywhere"; sign test
[[nodiscard]] SuiteReadings readSuite(std::span<const NamedSuiteCase> cases, const SuiteFinding& suite,
                                      const Study& study);

}  // namespace core
