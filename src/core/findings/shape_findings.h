#pragma once

#include <optional>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include "core/estimate/claims.h"
#include "core/estimate/effect.h"
#include "core/estimate/ladder.h"
#include "core/estimate/loss_chain.h"
#include "core/estimate/transfer_model.h"
#include "core/estimate/verdict.h"
#include "core/findings/holds_target.h"
#include "core/findings/level_resources.h"
#include "core/record/sheet_ledger.h"
#include "core/study/asked_contrasts.h"

namespace core {

struct ComparableMemory;

/// What a case, or the suite, says about one contrast that the study asks.
struct ContrastFinding : Claimed {
  std::size_t asked = 0;                  ///< its place among contrastsOf
  std::optional<std::size_t> case_index;  ///< nothing for the suite
  Estimator estimator = Estimator::Passes;
  Contrast contrast;                   ///< of the metric on the scale used; of the suite on the improvement scale
  bool is_log = true;                  ///< false: in the metric's unit
  PercentChange improvement;           ///< direction taken out; only where is_log
  NoticeThreshold threshold;           ///< only where is_log
  std::optional<SharedSpread> shared;  ///< where the spread of all configurations is in the interval
};

/// What a case, or the suite, shows at one configuration.
struct ValueAt {
  std::optional<double> mean;                ///< geometric, in the metric's unit; nothing for the suite
  std::optional<PercentChange> improvement;  ///< against the baseline, within a group its own; of that itself 0
  std::optional<LevelValue> alone;           ///< of a case: by itself, and whether it holds the target rate
  int passes = 0;                            ///< of a case: that the mean is of
};
struct ValuesOf {
  std::optional<std::size_t> case_index;
  std::vector<ValueAt> at;  ///< by configuration
};

/// What a transfer model foretells of a level that was not measured, in the metric's unit.
struct Foretold {
  ConfigurationId level{};
  double value = 0;
  std::optional<std::pair<double, double>> interval;
};

/// One step of a ladder: from a level to the one listed after it.
struct LadderStep {
  std::size_t asked = 0;
  std::optional<Elasticity> elasticity;
  bool is_reversal = false;  ///< the stronger level is surely slower
};

/// What a ladder proves of how much is enough: a statement about the levels above.
enum class EnoughReading {
  Open,          ///< not settled
  Enough,        ///< a level, since no measured level above it brings as much as matters
  NoLowerLevel,  ///< no level below the highest that was measured; of that one itself nobody has measured it
  NoLevel        ///< even the highest surely falls short of the best
};
/// "enough", "no_lower_level", "no_level", "open". Scripts may rely on it.
[[nodiscard]] const char* enoughReadingName(EnoughReading reading);

/// How far each step of a ladder carries, for one case or the suite.
struct LadderFinding {
  std::optional<std::size_t> case_index;
  NoticeThreshold threshold;
  std::vector<LadderStep> steps;
  std::optional<EnoughPoint> enough;  ///< nothing while a level has no interval; by places of configurations
  EnoughReading reading = EnoughReading::Open;
  bool is_below_proved = false;             ///< NoLowerLevel: the level below surely falls short, not only perhaps
  std::vector<std::size_t> order;           ///< the configurations with a result, weakest first
  std::vector<ConfigurationId> unmeasured;  ///< without a result, above all that have one
  bool is_so_far = false;                   ///< the plan is not complete: which level is enough may change
  std::optional<TransferModel> model;       ///< where the resource is a rate and the result a frame time
  std::vector<Foretold> foretold;
};

/// Where the loss along a chain goes, for one case or the suite.
struct ChainFinding {
  std::optional<std::size_t> case_index;
  LossChain chain;  ///< improvement scale
  PercentChange total;
};

/// A configuration at which a case has no result.
struct MissingResult {
  std::optional<std::size_t> case_index;  ///< nothing: no case has one
  std::string name;
  std::string reason;
};

/// What a study of any shape says: every contrast that it asks, and how its shape reads them.
struct ShapeFindings {
  std::vector<AskedContrast> asked;
  std::vector<ContrastFinding> contrasts;  ///< the suite's first, then case by case, each in the order asked
  std::vector<ValuesOf> values;            ///< the suite's first
  std::vector<LadderFinding> ladders;      ///< of a ladder: the suite's first
  std::vector<ChainFinding> chains;        ///< of a chain: the suite's first
  std::vector<MissingResult> missing;
  std::vector<std::optional<LevelResource>> resources;  ///< by configuration; empty where several variables move
  std::vector<std::size_t> suite_cases;                 ///< that the suite sums up, by index among the study's
  std::vector<std::optional<std::size_t>> subjects;     ///< of which the headline speaks, as headlineSubjects has them

  /// Nothing where that one has no such contrast. `case_index` nothing: the suite.
  [[nodiscard]] const ContrastFinding* find(std::size_t asked, std::optional<std::size_t> case_index) const;
  [[nodiscard]] const ValuesOf* valuesOf(std::optional<std::size_t> case_index) const;
  [[nodiscard]] const LadderFinding* ladderOf(std::optional<std::size_t> case_index) const;
  [[nodiscard]] const ChainFinding* chainOf(std::optional<std::size_t> case_index) const;
  /// The first of the subjects: what is drawn and told before the rest. Nothing: the suite.
  [[nodiscard]] std::optional<std::size_t> headlineCase() const;
};

/// Shapes  passes of `retired_visits` (by id) stay out
/// Source  contrastOf for every contrast; Holm 1979 within each kind of contrast and each metric; enough-point,
/// elasticity, transfer model and Fieller's shares as in estimate. `memory` spares the estimates of values that are the
/// same as the last time.
[[nodiscard]] ShapeFindings shapeFindingsOf(const Study& study, const Record& record, const PartsDone& done,
                                            std::span<const std::int64_t> retired_visits = {},
                                            ComparableMemory* memory = nullptr);

}  // namespace core
