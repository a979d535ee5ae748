#include "core/findings/further_results.h"

#include <algorithm>
#include <map>
#include <utility>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/findings/judged_claim.h"
#include "core/findings/shape_cases.h"
#include "core/findings/suite_members.h"
#include "core/record/looks.h"
#include "core/record/pair_visits.h"
#include "core/study/case_results.h"

namespace core {
namespace {

using CountedOfCases = std::vector<std::vector<CountedPass>>;

std::optional<double> valueAt(const Pass& pass, std::size_t place) {
  return place < pass.further.size() ? pass.further[place].value : std::nullopt;
}

/// A result of one name in one case, with everything that can be asked of it.
struct NamedResult {
  std::size_t place = 0;
  ComparableCase comparable;
};

// The study whose cases are asked that one result in place of their headline. No frame is in it.
Study askedFor(Study study, const std::string& name) {
  study.notice_threshold_ms.reset();
  for (Case& a_case : study.cases)
    if (const auto place = furtherPlaceOf(a_case, name)) a_case.metric = a_case.further[*place].metric;
  return study;
}

std::vector<NamedResult> resultsOf(const std::string& name, const Study& study, const CountedOfCases& counted) {
  const Study asked = askedFor(study, name);
  std::vector<NamedResult> results;
  for (std::size_t i = 0; i < study.cases.size(); ++i) {
    const auto place = furtherPlaceOf(study.cases[i], name);
    if (!place) continue;
    auto values = visitValues(
        counted[i], [&](const Pass& pass) { return valueAt(pass, *place); }, Digits::Written);
    auto everywhere = sharingVisits(study, values);
    results.push_back(
        {*place,
         ComparableCase(i, asked,
                        SuiteCase{asked.cases[i].metric.direction, std::move(values), {}, std::move(everywhere)})});
  }
  return results;
}

void countPasses(FurtherFinding& finding, const Study& study, std::span<const CountedPass> counted,
                 const ComparableCase& comparable) {
  std::map<ConfigurationId, int> passes;
  for (const CountedPass& one : counted) {
    if (valueAt(*one.pass, finding.place)) {
      ++passes[one.visit->configuration];
      continue;
    }
    if (finding.missing++ == 0 && finding.place < one.pass->further.size())
      finding.first_reason = one.pass->further[finding.place].reason;
  }
  for (const ConfigurationId at : configurationsOf(study))
    if (const auto mean = comparable.meanAt(at)) finding.at.push_back({at, *mean, passes[at]});
}

/// The contrasts among which that of a pair is judged: all of its kind that the study asks. A pair that somebody chose
/// afterwards is alone.
class Family {
 public:
  Family(const Study& study, PairOf pair, const PartsDone& done) : study_(study), done_(done) {
    contrasts_.push_back(differenceWeights(study.configurationCount(), placeOf(pair.from), placeOf(pair.to)));
    const std::vector<AskedContrast> asked = contrastsOf(study);
    const auto own =
        std::find_if(asked.begin(), asked.end(), [&](const AskedContrast& one) { return one.pair == pair; });
    for (const AskedContrast& one : asked)
      if (own != asked.end() && one.kind == own->kind && one.pair != pair) contrasts_.push_back(one.weights);
  }

  /// What the cases that have a result say of it.
  [[nodiscard]] std::vector<FurtherFinding> judge(const std::vector<NamedResult>& results,
                                                  const CountedOfCases& counted) const {
    std::vector<FurtherFinding> findings;
    std::vector<std::pair<std::size_t, Claimed>> others;  // of the other contrasts, each with its case
    for (const NamedResult& one : results) {
      const std::size_t index = *one.comparable.caseIndex();
      FurtherFinding& finding = findings.emplace_back();
      finding.case_index = index;
      finding.place = one.place;
      finding.threshold = one.comparable.threshold();
      countPasses(finding, study_, counted[index], one.comparable);
      if (const auto estimate = one.comparable.estimate(contrasts_.front())) {
        static_cast<Claimed&>(finding) = claimOn(*estimate, finding);
        static_cast<ToldChange&>(finding) =
            toldChangeOf(estimate->contrast, estimate->is_log, metricOf(finding).direction);
        if (estimate->contrast.inference) finding.p_zero = estimate->contrast.inference->p;
      }
      for (std::size_t other = 1; other < contrasts_.size(); ++other)
        if (const auto estimate = one.comparable.estimate(contrasts_[other]))
          others.emplace_back(index, claimOn(*estimate, finding));
    }
    std::vector<FamilyMember> members;
    for (FurtherFinding& finding : findings) members.push_back({&finding, finding.case_index});
    for (auto& [index, other] : others) members.push_back({&other, index});
    adjustByPart(members, study_, study_.shape == Shape::Pair ? "cases" : "contrasts");
    return findings;
  }

 private:
  [[nodiscard]] const Metric& metricOf(const FurtherFinding& finding) const {
    return study_.cases[finding.case_index].further[finding.place].metric;
  }
  [[nodiscard]] Claimed claimOn(const ShapeEstimate& estimate, const FurtherFinding& finding) const {
    const Metric& metric = metricOf(finding);
    const bool is_done = done_.isDone(study_.cases[finding.case_index]);
    return claimedOf(estimate.contrast, finding.threshold,
                     {estimate.is_log, metric.scale, metric.threshold, is_done, estimate.is_flip_unseen});
  }
  const Study& study_;
  PartsDone done_;
  std::vector<std::vector<double>> contrasts_;  ///< as weights, the pair's own first
};

}  // namespace

std::vector<FurtherFinding> furtherFindingsOf(const Study& as_asked, const Record& record,
                                              std::span<const std::int64_t> retired_visits, PairOf pair,
                                              const PartsDone& done) {
  const std::vector<std::string> names = furtherResultNames(as_asked.cases);
  if (names.empty()) return {};
  const Study study = withLooksPaid(as_asked, record);
  const std::vector<Visit> visits = visitsWithout(retired_visits, record.visits);
  const CountedOfCases counted = countedByCase(study, scheduleOf(study), visits, record.passes);
  const Family family(study, pair, done);
  std::vector<FurtherFinding> all;
  for (const std::string& name : names)
    for (FurtherFinding& finding : family.judge(resultsOf(name, study, counted), counted))
      all.push_back(std::move(finding));
  std::sort(all.begin(), all.end(), [](const FurtherFinding& one, const FurtherFinding& other) {
    return std::pair(one.case_index, one.place) < std::pair(other.case_index, other.place);
  });
  return all;
}

std::vector<const FurtherFinding*> furtherOf(std::span<const FurtherFinding> all, std::size_t case_index) {
  std::vector<const FurtherFinding*> own;
  for (const FurtherFinding& one : all)
    if (one.case_index == case_index) own.push_back(&one);
  return own;
}

std::string furtherText(const FurtherFinding& finding, const Study& study) {
  const CaseResult& result = study.cases[finding.case_index].further[finding.place];
  std::string levels;
  for (const ResultAt& one : finding.at)
    levels += fmt::format("{}{} at {}", levels.empty() ? "" : ", ", valueText(one.mean, result.metric.unit),
                          study.nameOf(one.configuration));
  std::string text = fmt::format("{}{}: {}", result.name, result.is_control ? " (should not respond)" : "",
                                 levels.empty() ? "no pass says it" : levels);
  if (const std::string change = finding.changeText(result.metric.unit); !change.empty())
    text += fmt::format("; {} {}: {}", finding.improvement ? "improvement" : "change", change,
                        verdictText(finding.verdict, finding.threshold, finding.marks));
  return text;
}

}  // namespace core
