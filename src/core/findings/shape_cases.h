#pragma once

#include <map>
#include <optional>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include "core/estimate/notice_threshold.h"
#include "core/estimate/suite.h"
#include "core/findings/holds_target.h"
#include "core/record/case_passes.h"
#include "core/record/record.h"
#include "core/study/asked_contrasts.h"
#include "core/study/study.h"

namespace core {

/// A contrast with what a verdict on it must know.
struct ShapeEstimate {
  Estimator estimator = Estimator::Passes;
  Contrast contrast;  ///< improvement scale
  bool is_log = true;
  bool is_flip_unseen = false;
  std::optional<SharedSpread> shared = {};  ///< where the spread of all configurations is in it
};

/// Whatever can say something about any contrast of a study's configurations: a case, or all cases as a suite.
class Comparable {
 public:
  virtual ~Comparable() = default;
  /// Nothing for the suite.
  [[nodiscard]] virtual std::optional<std::size_t> caseIndex() const = 0;
  /// Nothing where a configuration of the contrast has no result. Worked out once: contrasts, steps of a ladder and the
  /// values at each level ask for the same ones.
  [[nodiscard]] std::optional<ShapeEstimate> estimate(Weights weights) const;
  /// Knows from the beginning what another one, made of the same values, had worked out.
  void learnFrom(const Comparable& same) { known_ = same.known_; }
  /// Its own visits, improvement scale; empty where it has no logarithms.
  [[nodiscard]] virtual std::vector<VisitValues> lnVisits() const = 0;
  [[nodiscard]] virtual const NoticeThreshold& threshold() const = 0;
  /// Does it have a counted pass there?
  [[nodiscard]] virtual bool hasResultAt(ConfigurationId configuration) const = 0;

 private:
  [[nodiscard]] virtual std::optional<ShapeEstimate> workedOut(Weights weights) const = 0;
  mutable std::map<std::vector<double>, std::optional<ShapeEstimate>> known_;
};

/// One case with its counted passes, and what a null study says of it.
class ComparableCase : public Comparable {
 public:
  ComparableCase(std::size_t case_index, const Study& study, SuiteCase values);
  [[nodiscard]] std::optional<std::size_t> caseIndex() const override { return case_index_; }
  [[nodiscard]] std::vector<VisitValues> lnVisits() const override;
  [[nodiscard]] bool hasResultAt(ConfigurationId configuration) const override;
  [[nodiscard]] const NoticeThreshold& threshold() const override { return threshold_; }
  [[nodiscard]] const SuiteCase& values() const { return values_; }
  [[nodiscard]] bool isLog() const { return scale_ == Scale::Ratio && !lnVisits().empty(); }
  /// Over what its contrast with the baseline compares, geometric where the metric is a ratio; the baseline's own that
  /// of the contrast which the study is about. Nothing without a counted pass.
  [[nodiscard]] std::optional<double> meanAt(ConfigurationId configuration) const;
  /// By itself, whatever the other configurations say. Nothing without a counted pass.
  [[nodiscard]] std::optional<LevelValue> valueAt(ConfigurationId configuration, const Study& study) const;
  [[nodiscard]] bool hasValuesOf(const ComparableCase& other) const {
    return scale_ == other.scale_ && configurations_ == other.configurations_ && confidence_ == other.confidence_ &&
           values_ == other.values_;
  }

 private:
  [[nodiscard]] std::optional<ShapeEstimate> workedOut(Weights weights) const override;
  [[nodiscard]] std::vector<double> everywhere() const;
  /// The levels of two configurations as their contrast has them, the lower place first; nothing without a contrast.
  using Levels = std::optional<std::pair<double, double>>;
  [[nodiscard]] Levels levelsOf(ConfigurationId lower, ConfigurationId higher) const;
  std::size_t case_index_;
  std::size_t configurations_;
  PairOf headline_;
  ConfigurationId baseline_;
  Scale scale_;
  double confidence_;
  SuiteCase values_;
  mutable std::map<std::pair<ConfigurationId, ConfigurationId>, Levels> levels_;  ///< each is asked for several times
  NoticeThreshold threshold_;
};

/// A case that is summed up, with its visits as the suite takes them.
struct ComparableMember {
  const ComparableCase* of = nullptr;
  std::vector<VisitValues> visits;
};

/// The cases that are summed up, as one: each visit and round has its own value first.
class ComparableSuite : public Comparable {
 public:
  ComparableSuite(std::vector<ComparableMember> cases, const Study& study);
  [[nodiscard]] std::optional<std::size_t> caseIndex() const override { return std::nullopt; }
  [[nodiscard]] std::vector<VisitValues> lnVisits() const override { return suiteVisits(cases_); }
  [[nodiscard]] bool hasResultAt(ConfigurationId configuration) const override;
  [[nodiscard]] const NoticeThreshold& threshold() const override { return threshold_; }
  [[nodiscard]] std::size_t size() const { return cases_.size(); }
  /// By index among the study's.
  [[nodiscard]] const std::vector<std::size_t>& members() const { return members_; }
  [[nodiscard]] bool hasValuesOf(const ComparableSuite& other) const {
    return confidence_ == other.confidence_ && cases_ == other.cases_;
  }

 private:
  [[nodiscard]] std::optional<ShapeEstimate> workedOut(Weights weights) const override;
  std::vector<std::size_t> members_;
  std::vector<SuiteCase> cases_;
  double confidence_;
  NoticeThreshold threshold_;
};

/// The comparables of the last time. Used by one thread, for one study file.
struct ComparableMemory {
  std::vector<ComparableCase> cases;
  std::optional<ComparableSuite> suite;
};

}  // namespace core
