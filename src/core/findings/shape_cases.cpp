#include "core/findings/shape_cases.h"

#include <algorithm>
#include <cmath>

#include "core/estimate/null_study.h"
#include "core/findings/thresholds.h"

namespace core {
namespace {

bool hasValuesAt(std::span<const VisitValues> visits, ConfigurationId configuration) {
  return std::any_of(visits.begin(), visits.end(), [&](const VisitValues& visit) {
    return visit.configuration == configuration && !visit.values.empty();
  });
}

}  // namespace

ComparableCase::ComparableCase(std::size_t case_index, const Study& study, SuiteCase values)
    : case_index_(case_index),
      scale_(study.cases[case_index].metric.scale),
      confidence_(study.intervalConfidence()),
      values_(std::move(values)),
      threshold_(isLog() ? thresholdAt(study, study.cases[case_index].metric, meanAt(study.baseline()))
                         : noticeThreshold(study.notice_threshold_percent)) {}

std::optional<ShapeEstimate> Comparable::estimate(Weights weights) const {
  std::vector<double> key(weights.begin(), weights.end());
  if (const auto known = known_.find(key); known != known_.end()) return known->second;
  return known_.emplace(std::move(key), workedOut(weights)).first->second;
}

std::optional<ShapeEstimate> ComparableCase::workedOut(Weights weights) const {
  const auto null_study = nullStudy(values_.null_visits);
  const auto flip = null_study ? flipSdFrom(*null_study, values_.visits, weights) : std::nullopt;
  auto effect = weightedEffectOf(values_.visits, weights, confidence_, flip, scale_);
  if (!effect) return std::nullopt;
  const Estimator estimator = effect->design.estimator;
  return ShapeEstimate{estimator, *onImprovementScale(effect->contrast, values_.direction), effect->is_log,
                       estimator == Estimator::Passes && !effect->flip};
}

bool ComparableCase::isLog() const {
  return scale_ == Scale::Ratio &&
         std::all_of(values_.visits.begin(), values_.visits.end(), [](const VisitValues& visit) {
           return std::all_of(visit.values.begin(), visit.values.end(), [](double value) { return value > 0; });
         });
}

std::vector<VisitValues> ComparableCase::lnVisits() const {
  if (!isLog()) return {};
  std::vector<VisitValues> visits = values_.visits;
  for (VisitValues& visit : visits)
    for (double& value : visit.values) value = signOf(values_.direction) * std::log(value);
  return visits;
}

bool ComparableCase::hasResultAt(ConfigurationId configuration) const {
  return hasValuesAt(values_.visits, configuration);
}

std::optional<double> ComparableCase::meanAt(ConfigurationId configuration) const {
  const bool is_log = isLog();
  std::vector<double> values;
  for (const VisitValues& visit : values_.visits)
    if (visit.configuration == configuration)
      for (const double value : visit.values) values.push_back(is_log ? std::log(value) : value);
  if (values.empty()) return std::nullopt;
  return is_log ? std::exp(meanOf(values)) : meanOf(values);
}

ComparableSuite::ComparableSuite(std::span<const ComparableCase* const> cases, const Study& study)
    : confidence_(study.intervalConfidence()) {
  std::vector<std::optional<double>> frame_ms;
  for (const ComparableCase* one : cases) {
    cases_.push_back(one->values());
    const auto mean = one->meanAt(study.baseline());
    frame_ms.push_back(mean ? frameMs(study.cases[*one->caseIndex()].metric, *mean) : std::nullopt);
  }
  threshold_ = thresholdOver(study, frame_ms);
}

std::optional<ShapeEstimate> ComparableSuite::workedOut(Weights weights) const {
  const auto summary = summarizeSuite(cases_, confidence_, weights);
  if (!summary) return std::nullopt;
  return ShapeEstimate{summary->design.estimator, summary->this_suite, true, summary->isFlipUnseen()};
}

bool ComparableSuite::hasResultAt(ConfigurationId configuration) const {
  return std::all_of(cases_.begin(), cases_.end(),
                     [&](const SuiteCase& one) { return hasValuesAt(one.visits, configuration); });
}

}  // namespace core
