#include "core/findings/companions.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <utility>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/findings/judged_claim.h"
#include "core/findings/shape_cases.h"
#include "core/findings/suite_members.h"
#include "core/record/looks.h"
#include "core/record/pair_visits.h"
#include "core/study/companion.h"

namespace core {
namespace {

using PassesByVisit = std::map<std::int64_t, std::vector<CountedPass>>;

PassesByVisit byVisit(std::span<const CountedPass> counted) {
  PassesByVisit visits;
  for (const CountedPass& one : counted)
    if (one.pass->value) visits[one.visit->id].push_back(one);
  return visits;
}

// What a pass beside the companion yields, against one alone: a quotient has no unit, a difference keeps it.
std::optional<double> against(double beside, double alone, Scale scale) {
  if (scale == Scale::Difference) return beside - alone;
  return beside > 0 && alone > 0 ? std::optional(beside / alone) : std::nullopt;
}

// The passes beside the companion, with the quotient in place of their value.
std::vector<VisitValues> quotients(std::span<const CountedPass> beside, std::span<const CountedPass> alone,
                                   Scale scale) {
  const PassesByVisit others = byVisit(alone);
  std::map<const Pass*, double> of_pass;
  for (const auto& [visit, passes] : byVisit(beside)) {
    const auto same_visit = others.find(visit);
    if (same_visit == others.end()) continue;
    for (std::size_t i = 0; i < std::min(passes.size(), same_visit->second.size()); ++i)
      if (const auto value = against(*passes[i].pass->value, *same_visit->second[i].pass->value, scale))
        of_pass[passes[i].pass] = *value;
  }
  return visitValues(
      beside,
      [&](const Pass& pass) {
        const auto found = of_pass.find(&pass);
        return found == of_pass.end() ? std::nullopt : std::optional(found->second);
      },
      Digits::Written);
}

// One level by itself: the one-group case of a paired difference.
ToldChange changeAt(ConfigurationId configuration, std::span<const VisitValues> visits, const Metric& metric,
                    double confidence) {
  const LevelUnits units = levelUnits(visits, configuration, metric.scale);
  const auto mean = pairedDifference(units.values, confidence);
  if (!mean) return {};
  return toldChangeOf(*onImprovementScale(*mean, metric.direction), units.is_log, metric.direction);
}

std::vector<BesideAt> levelsOf(const Study& study, std::span<const VisitValues> visits, const Metric& metric) {
  std::vector<BesideAt> levels;
  for (const ConfigurationId at : configurationsOf(study)) {
    BesideAt level;
    level.configuration = at;
    for (const VisitValues& visit : visits)
      if (visit.configuration == at) level.passes += static_cast<int>(visit.values.size());
    if (level.passes == 0) continue;
    static_cast<ToldChange&>(level) = changeAt(at, visits, metric, study.confidence);
    levels.push_back(std::move(level));
  }
  return levels;
}

void fillClaim(CompanionFinding& finding, const ComparableCase& comparable, const Study& study, PairOf pair,
               const PartsDone& done) {
  const auto estimate =
      comparable.estimate(differenceWeights(study.configurationCount(), placeOf(pair.from), placeOf(pair.to)));
  if (!estimate) return;
  const Case& a_case = study.cases[finding.case_index];
  const Metric& metric = a_case.metric;
  static_cast<Claimed&>(finding) =
      claimedOf(estimate->contrast, finding.threshold,
                {estimate->is_log, metric.scale, metric.threshold, done.isDone(a_case), estimate->is_flip_unseen});
  static_cast<ToldChange&>(finding) = toldChangeOf(estimate->contrast, estimate->is_log, metric.direction);
  if (estimate->contrast.inference) finding.p_zero = estimate->contrast.inference->p;
}

}  // namespace

const char* besideReadingName(BesideReading reading) {
  switch (reading) {
    case BesideReading::More: return "more";
    case BesideReading::Less: return "less";
    case BesideReading::Same: return "same";
    case BesideReading::Open: return "open";
  }
  return "unknown";
}

BesideReading CompanionFinding::reading() const {
  if (doesGain()) return BesideReading::More;
  if (doesLose()) return BesideReading::Less;
  const bool is_same = verdict == Verdict::NoDifferenceThatMatters || verdict == Verdict::RealButNegligible;
  return is_same && !marks.not_after_adjustment_for ? BesideReading::Same : BesideReading::Open;
}

std::vector<CompanionFinding> companionFindingsOf(const Study& as_asked, const Record& record,
                                                  std::span<const std::int64_t> retired_visits, PairOf pair,
                                                  const PartsDone& done) {
  std::vector<CompanionFinding> findings;
  for (std::size_t i = 0; i < as_asked.cases.size(); ++i)
    if (const auto alone = sameCaseAlone(as_asked, i)) {
      CompanionFinding& finding = findings.emplace_back();
      finding.case_index = i;
      finding.alone_index = *alone;
    }
  if (findings.empty()) return findings;
  Study study = withLooksPaid(as_asked, record);
  study.notice_threshold_ms.reset();  // a quotient is no time of a frame
  const std::vector<Visit> visits = visitsWithout(retired_visits, record.visits);
  const auto counted = countedByCase(study, scheduleOf(study), visits, record.passes);
  std::vector<FamilyMember> family;
  for (CompanionFinding& finding : findings) {
    const Metric& metric = study.cases[finding.case_index].metric;
    auto values = quotients(counted[finding.case_index], counted[finding.alone_index], metric.scale);
    finding.at = levelsOf(study, values, metric);
    auto everywhere = sharingVisits(study, values);
    const ComparableCase comparable(finding.case_index, study,
                                    SuiteCase{metric.direction, std::move(values), {}, std::move(everywhere)});
    finding.threshold = comparable.threshold();
    fillClaim(finding, comparable, study, pair, done);
    family.push_back({&finding, finding.case_index});
  }
  adjustByPart(family, study, "cases");
  return findings;
}

std::string companionText(const CompanionFinding& finding, const Study& study, PairOf pair) {
  const Case& a_case = study.cases[finding.case_index];
  const std::string& unit = a_case.metric.unit;
  const bool is_ratio = a_case.metric.scale == Scale::Ratio;
  std::string text = fmt::format("{}, against alone: ", a_case.title());
  if (finding.at.empty()) return text + "no visit has passes of both yet";
  if (is_ratio) text += "improvement ";
  for (std::size_t i = 0; i < finding.at.size(); ++i) {
    const BesideAt& level = finding.at[i];
    text += fmt::format("{}{} at {}", i == 0 ? "" : ", ", level.changeText(unit), study.nameOf(level.configuration));
  }
  const std::string change = finding.changeText(unit);
  if (change.empty()) return text;
  const auto does = [&] {
    switch (finding.reading()) {
      case BesideReading::More: return "comes out better beside it than alone";
      case BesideReading::Less: return "comes out worse beside it than alone";
      case BesideReading::Same: return "comes out the same beside it as alone";
      case BesideReading::Open: break;
    }
    return "may come out better or worse beside it than alone, that is not settled";
  };
  const std::string end =
      fmt::format(". The change from {} to {} {}: {}", study.nameOf(pair.from), study.nameOf(pair.to), does(), change);
  return text + withMarks(end, finding.marks);
}

}  // namespace core
