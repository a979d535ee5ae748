#include "core/findings/shape_cases.h"

#include <algorithm>
#include <cmath>

#include "core/estimate/null_study.h"
#include "core/findings/suite_members.h"
#include "core/findings/thresholds.h"

namespace core {
ComparableCase::ComparableCase(std::size_t case_index, const Study& study, SuiteCase values)
    : case_index_(case_index),
      configurations_(study.configurationCount()),
      headline_(headlinePair(study)),
      baseline_(study.baseline()),
      scale_(study.cases[case_index].metric.scale),
      confidence_(study.confidence),
      values_(std::move(values)),
      threshold_(isLog() ? thresholdAt(study, study.cases[case_index].metric, meanAt(baseline_))
                         : noticeThreshold(study.notice_threshold_percent)) {}

std::optional<ShapeEstimate> Comparable::estimate(Weights weights) const {
  std::vector<double> key(weights.begin(), weights.end());
  if (const auto known = known_.find(key); known != known_.end()) return known->second;
  return known_.emplace(std::move(key), workedOut(weights)).first->second;
}

std::optional<ShapeEstimate> ComparableCase::workedOut(Weights weights) const {
  const auto null_study = nullStudy(values_.null_visits);
  const auto flip = null_study ? flipSdFrom(*null_study, values_.visits, weights) : std::nullopt;
  auto effect = weightedEffectOf(values_.visits, weights, confidence_, flip, scale_, values_.everywhere);
  if (!effect) return std::nullopt;
  const Estimator estimator = effect->design.estimator;
  return ShapeEstimate{estimator, *onImprovementScale(effect->contrast, values_.direction), effect->is_log,
                       estimator == Estimator::Passes && !effect->flip, effect->shared};
}

// What counts anywhere: a contrast of all configurations that have a result.
std::vector<double> ComparableCase::everywhere() const {
  std::vector<double> weights(configurations_, 0);
  for (std::size_t i = 0; i < configurations_; ++i) weights[i] = hasResultAt(configurationAt(i)) ? 1 : 0;
  return weights;
}

std::vector<VisitValues> ComparableCase::lnVisits() const {
  auto visits = scale_ == Scale::Ratio ? positiveVisits(values_.visits, everywhere()) : std::nullopt;
  if (!visits) return {};
  for (VisitValues& visit : *visits)
    for (double& value : visit.values) value = signOf(values_.direction) * std::log(value);
  return *std::move(visits);
}

bool ComparableCase::hasResultAt(ConfigurationId configuration) const {
  return hasValuesAt(values_.visits, configuration);
}

std::optional<double> ComparableCase::meanAt(ConfigurationId configuration) const {
  if (!hasResultAt(configuration)) return std::nullopt;
  ConfigurationId other = configuration == baseline_ ? headline_.to : baseline_;
  if (other == configuration || !hasResultAt(other))  // then against any that has a result
    for (std::size_t i = 0; i < configurations_; ++i)
      if (configurationAt(i) != configuration && hasResultAt(configurationAt(i))) other = configurationAt(i);
  const bool is_lower = placeOf(configuration) < placeOf(other);
  if (const Levels levels = is_lower ? levelsOf(configuration, other) : levelsOf(other, configuration))
    return is_lower ? levels->first : levels->second;
  return levelUnits(values_.visits, configuration, scale_).mean();  // nothing to be compared with
}

ComparableCase::Levels ComparableCase::levelsOf(ConfigurationId lower, ConfigurationId higher) const {
  const auto [known, is_new] = levels_.try_emplace({lower, higher});
  if (!is_new) return known->second;
  const auto weights = differenceWeights(configurations_, placeOf(lower), placeOf(higher));
  if (const auto effect = weightedEffectOf(values_.visits, weights, confidence_, {}, scale_))
    known->second = std::pair(effect->levelAt(placeOf(lower)), effect->levelAt(placeOf(higher)));
  return known->second;
}

std::optional<LevelValue> ComparableCase::valueAt(ConfigurationId configuration, const Study& study) const {
  return levelValueOf(values_.visits, configuration, study.cases[case_index_].metric, study);
}

ComparableSuite::ComparableSuite(std::vector<ComparableMember> cases, const Study& study)
    : confidence_(study.confidence) {
  std::vector<std::optional<double>> frame_ms;
  for (ComparableMember& one : cases) {
    const std::size_t index = *one.of->caseIndex();
    members_.push_back(index);
    cases_.push_back({study.cases[index].metric.direction, std::move(one.visits), one.of->values().null_visits,
                      one.of->values().everywhere});
    const auto mean = one.of->meanAt(study.baseline());
    frame_ms.push_back(mean ? frameMs(study.cases[index].metric, *mean) : std::nullopt);
  }
  threshold_ = thresholdOver(study, frame_ms);
}

std::optional<ShapeEstimate> ComparableSuite::workedOut(Weights weights) const {
  const auto summary = summarizeSuite(cases_, confidence_, weights);
  if (!summary) return std::nullopt;
  return ShapeEstimate{summary->design.estimator, summary->this_suite, true, summary->isFlipUnseen(), summary->shared};
}

bool ComparableSuite::hasResultAt(ConfigurationId configuration) const {
  return std::all_of(cases_.begin(), cases_.end(),
                     [&](const SuiteCase& one) { return hasValuesAt(one.visits, configuration); });
}

}  // namespace core
