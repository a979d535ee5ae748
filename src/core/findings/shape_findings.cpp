#include "core/findings/shape_findings.h"

#include <algorithm>
#include <map>
#include <tuple>

#include "core/findings/headline.h"
#include "core/findings/judged_claim.h"
#include "core/findings/missing_results.h"
#include "core/findings/shape_cases.h"
#include "core/findings/shape_ladder.h"
#include "core/findings/suite_members.h"
#include "core/record/looks.h"
#include "core/record/noise.h"
#include "core/record/pair_visits.h"
#include "core/record/sheet_ledger.h"

namespace core {
namespace {

// A case is told on the metric's own scale, its improvement beside it.
std::optional<ContrastFinding> findingFor(std::size_t asked, const AskedContrast& contrast, const Comparable& of,
                                          const Study& study, const PartsDone& done) {
  const auto estimate = of.estimate(contrast.weights);
  if (!estimate) return std::nullopt;
  ContrastFinding finding;
  finding.asked = asked;
  finding.case_index = of.caseIndex();
  finding.estimator = estimate->estimator;
  finding.is_log = estimate->is_log;
  finding.threshold = of.threshold();
  if (finding.is_log) finding.improvement = percentChangeOf(estimate->contrast);
  finding.contrast = finding.case_index
                         ? *onImprovementScale(estimate->contrast, study.cases[*finding.case_index].metric.direction)
                         : estimate->contrast;
  finding.shared = estimate->shared;
  const Metric metric = finding.case_index ? study.cases[*finding.case_index].metric : Metric{};
  const bool is_done = finding.case_index ? done.isDone(study.cases[*finding.case_index]) : done.is_first_done;
  static_cast<Claimed&>(finding) =
      claimedOf(estimate->contrast, finding.threshold,
                {finding.is_log, metric.scale, metric.threshold, is_done, estimate->is_flip_unseen});
  return finding;
}

// Families for each kind of contrast over all cases; the suite is no case.
void adjustForFamilies(ShapeFindings& findings, const Study& study) {
  std::map<ContrastKind, std::vector<FamilyMember>> families;
  for (ContrastFinding& one : findings.contrasts)
    if (one.case_index) families[findings.asked[one.asked].kind].push_back({&one, *one.case_index});
  for (const auto& [kind, family] : families)
    adjustByPart(family, study, study.shape == Shape::Pair ? "cases" : "contrasts");
  // The first step of a ladder is a step, and its level against the baseline: one comparison, judged as it is first
  // told.
  std::map<std::tuple<std::size_t, ConfigurationId, ConfigurationId>, const Claimed*> told;
  for (ContrastFinding& one : findings.contrasts) {
    const auto& pair = findings.asked[one.asked].pair;
    if (!one.case_index || !pair) continue;
    const auto [first, is_first] = told.try_emplace({*one.case_index, pair->from, pair->to}, &one);
    if (!is_first) static_cast<Claimed&>(one) = *first->second;
  }
}

std::vector<ComparableMember> membersOf(const Study& study, std::span<const ComparableCase> cases,
                                        const SheetLedger& ledger) {
  std::vector<std::vector<VisitValues>> visits_of_all;
  for (const ComparableCase& one : cases) visits_of_all.push_back(one.values().visits);
  const std::vector<ConfigurationId> measured =
      measuredOf(study, std::span(visits_of_all).first(study.firstPartCases()));
  std::vector<ComparableMember> members;
  for (const ComparableCase& one : cases)
    if (auto visits = suiteVisitsOf(study, *one.caseIndex(), one.values().visits, measured,
                                    [&](std::size_t of, ConfigurationId at) { return ledger.awaits(of, at); }))
      members.push_back({&one, *std::move(visits)});
  return members;
}

template <class List>
auto* entryOf(const List& list, std::optional<std::size_t> case_index) {
  const auto found =
      std::find_if(list.begin(), list.end(), [&](const auto& one) { return one.case_index == case_index; });
  return found == list.end() ? nullptr : &*found;
}

// What a configuration is held against: the baseline; within a group the one that differs in nothing but the variable
// that is asked about, for cards or hosts are never compared themselves. Nothing where that cell is not measured.
std::optional<ConfigurationId> referenceOf(const Study& study, ConfigurationId at) {
  std::vector<std::size_t> levels = study.levelsAt(at);
  bool has_group = false;
  for (std::size_t i = 0; i < levels.size(); ++i) {
    has_group = has_group || study.variables[i].is_group;
    if (!study.variables[i].is_group) levels[i] = study.variables[i].baseline;
  }
  if (!has_group) return study.baseline();
  for (const ConfigurationId one : configurationsOf(study))
    if (study.levelsAt(one) == levels) return one;
  return std::nullopt;
}

ValuesOf valuesFor(const Comparable& of, const Study& study) {
  ValuesOf values{of.caseIndex(), {}};
  const auto* one_case = dynamic_cast<const ComparableCase*>(&of);
  for (const ConfigurationId at : configurationsOf(study)) {
    ValueAt value;
    if (one_case) {
      value.mean = one_case->meanAt(at);
      value.alone = one_case->valueAt(at, study);
      for (const VisitValues& visit : one_case->values().visits)
        if (visit.configuration == at) value.passes += static_cast<int>(visit.values.size());
    }
    const auto reference = referenceOf(study, at);
    if (at == reference && of.hasResultAt(at)) value.improvement = PercentChange{0, {}};
    if (reference && at != *reference)
      if (const auto estimate =
              of.estimate(differenceWeights(study.configurationCount(), placeOf(*reference), placeOf(at)));
          estimate && estimate->is_log)
        value.improvement = percentChangeOf(estimate->contrast);
    values.at.push_back(value);
  }
  return values;
}

// A chain whose end has no result is told as far as it was measured.
void askReached(std::vector<AskedContrast>& asked, std::span<const Comparable* const> all, const Study& study) {
  std::vector<PairOf> reached;
  for (const Comparable* one : all) {
    std::size_t last = study.configurationCount() - 1;
    while (last > 0 && !one->hasResultAt(configurationAt(last))) --last;
    const PairOf pair{configurationAt(0), configurationAt(last)};
    if (last == 0 || !one->hasResultAt(pair.from)) continue;
    if (last + 1 == study.configurationCount() || std::find(reached.begin(), reached.end(), pair) != reached.end())
      continue;
    reached.push_back(pair);
    asked.push_back(totalOf(study, pair));
  }
}

void learn(std::vector<ComparableCase>& cases, ComparableSuite& suite, const ComparableMemory& memory) {
  for (std::size_t i = 0; i < std::min(cases.size(), memory.cases.size()); ++i)
    if (cases[i].hasValuesOf(memory.cases[i])) cases[i].learnFrom(memory.cases[i]);
  if (memory.suite && suite.hasValuesOf(*memory.suite)) suite.learnFrom(*memory.suite);
}

}  // namespace

const char* enoughReadingName(EnoughReading reading) {
  switch (reading) {
    case EnoughReading::Open: return "open";
    case EnoughReading::Enough: return "enough";
    case EnoughReading::NoLowerLevel: return "no_lower_level";
    case EnoughReading::NoLevel: return "no_level";
  }
  return "unknown";
}

const ContrastFinding* ShapeFindings::find(std::size_t asked_place, std::optional<std::size_t> case_index) const {
  for (const ContrastFinding& one : contrasts)
    if (one.asked == asked_place && one.case_index == case_index) return &one;
  return nullptr;
}

const ValuesOf* ShapeFindings::valuesOf(std::optional<std::size_t> case_index) const {
  return entryOf(values, case_index);
}
const LadderFinding* ShapeFindings::ladderOf(std::optional<std::size_t> case_index) const {
  return entryOf(ladders, case_index);
}
const ChainFinding* ShapeFindings::chainOf(std::optional<std::size_t> case_index) const {
  return entryOf(chains, case_index);
}

std::optional<std::size_t> ShapeFindings::headlineCase() const {
  return subjects.empty() ? std::optional<std::size_t>(0) : subjects.front();
}

ShapeFindings shapeFindingsOf(const Study& as_asked, const Record& record, const PartsDone& done,
                              std::span<const std::int64_t> retired_visits, ComparableMemory* memory) {
  const Study study = withLooksPaid(as_asked, record);
  const std::vector<Slot> schedule = scheduleOf(study);
  const std::vector<Visit> visits = visitsWithout(retired_visits, record.visits);
  const auto counted = countedByCase(study, schedule, visits, record.passes);
  std::vector<ComparableCase> cases;
  for (std::size_t i = 0; i < study.cases.size(); ++i) {
    auto values = visitValues(counted[i], [](const Pass& pass) { return pass.value; });
    auto everywhere = sharingVisits(study, values);
    cases.emplace_back(i, study,
                       SuiteCase{study.cases[i].metric.direction, std::move(values),
                                 nullVisitsOf(study.cases[i], record.null_study), std::move(everywhere)});
  }
  ComparableSuite suite(membersOf(study, cases, SheetLedger(study, schedule, record)), study);
  if (memory) learn(cases, suite, *memory);
  std::vector<const Comparable*> all;
  if (suite.size() >= 2) all.push_back(&suite);
  for (const ComparableCase& one : cases) all.push_back(&one);

  ShapeFindings findings;
  findings.suite_cases = suite.members();
  findings.subjects = headlineSubjects(study, suite.size() >= 2);
  findings.asked = contrastsOf(study);
  if (study.shape == Shape::Chain) askReached(findings.asked, all, study);
  findings.resources = levelResources(study, record);
  for (const Comparable* one : all)
    for (std::size_t i = 0; i < findings.asked.size(); ++i)
      if (auto finding = findingFor(i, findings.asked[i], *one, study, done))
        findings.contrasts.push_back(*std::move(finding));
  adjustForFamilies(findings, study);
  for (const Comparable* one : all) findings.values.push_back(valuesFor(*one, study));
  if (study.shape == Shape::Ladder)
    for (const Comparable* one : all) findings.ladders.push_back(core::ladderOf(*one, study, findings));
  if (study.shape == Shape::Chain)
    for (const Comparable* one : all)
      if (auto chain = core::chainOf(*one, study)) findings.chains.push_back(*std::move(chain));
  findings.missing = missingResults(study, record, schedule, cases, retired_visits);
  if (memory) *memory = {std::move(cases), std::move(suite)};
  return findings;
}

}  // namespace core
