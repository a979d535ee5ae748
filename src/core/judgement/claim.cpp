#include "core/judgement/claim.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/findings/headline.h"
#include "core/findings/result_row.h"
#include "core/study/look_confidences.h"

namespace core {

std::string metricNames(const Study& study, std::span<const std::size_t> cases) {
  std::vector<std::string> names;
  for (const std::size_t one : cases)
    if (const std::string& name = study.cases[one].metric.name;
        std::find(names.begin(), names.end(), name) == names.end())
      names.push_back(name);
  if (names.empty()) return "the result";
  if (names.size() > 2) return "the headline metrics";
  return names.size() == 2 ? names[0] + " and " + names[1] : names[0];
}

void fillClaim(Claim& claim, std::vector<Told> told) {
  if (told.empty()) return;
  claim.has_result = true;
  claim.metric = std::move(told.front().metric);
  claim.cases = std::move(told.front().cases);
  claim.verb = std::move(told.front().verb);
  claim.outcome = std::move(told.front().outcome);
  claim.verdict = std::move(told.front().verdict);
  for (std::size_t i = 1; i < told.size(); ++i) {
    const Told& one = told[i];
    claim.also.push_back(fmt::format("{} {} over {} by {}{}{}", one.verb, one.metric, one.cases, one.outcome,
                                     one.verdict.empty() ? "" : ": ", one.verdict));
  }
}

std::string notMeasured(const char* what, bool is_plan_complete) {
  return fmt::format("… not measured{}{}", what, is_plan_complete ? "" : " yet");
}

std::vector<ClaimPart> Claim::parts() const {
  std::string before;
  for (const std::string& one : first) before += one + ". ";
  std::vector<ClaimPart> parts{{"", before + "On "}, {"bench", bench}};
  const auto add = [&](const char* words, const char* names, const std::string& text) {
    parts.push_back({"", words});
    parts.push_back({names, text});
  };
  if (shape == Shape::Chain) {
    add(", going from ", "baseline", baseline);
    add(steps == 1 ? " in a step to " : " in steps to ", "changed", changed);
  } else if (shape == Shape::Crossed) {
    add(", crossing the ", "variable", variable);
    add(" with the ", "other", other);
  } else {
    add(", moving the ", "variable", variable);
    add(shape == Shape::Ladder ? " through " : " from ", "baseline", baseline);
    add(" to ", "changed", changed);
  }
  parts.push_back({"", " " + verb + " "});
  parts.push_back({"metric", metric});
  add(" over ", "cases", cases);
  parts.push_back({"", shape == Shape::Ladder || shape == Shape::Crossed ? ": " : " by "});
  return parts;
}

std::string Claim::sentence() const {
  std::string text;
  for (const ClaimPart& part : parts()) text += part.text;
  return text + outcome + ending();
}

std::string Claim::ending() const {
  if (is_stopped) return " … not yet a single-variable comparison";
  std::string text = verdict.empty() ? "" : ": " + verdict;
  constexpr double kUsual = 0.95;
  if (has_result && std::abs(confidence - kUsual) > 1e-9)
    text += fmt::format(", at {} confidence", confidenceText(confidence));
  for (const std::string& one : also) text += "; it " + one;
  return text;
}

// Which yardstick a claim rests on is named wherever it is not the interval.
static std::string verdictBy(const Study& study, double improvement_percent, std::optional<double> pass_sd,
                             const std::string& by_interval, const Marks& marks) {
  if (study.yardstick == Yardstick::FixedBand)
    return withMarks(
        fmt::format("{} by a fixed band of {:g} %", standingName(byFixedBand(improvement_percent, study.band_percent)),
                    study.band_percent),
        marks);
  if (study.yardstick == Yardstick::TwoRunToRunSds && pass_sd)
    return withMarks(fmt::format("{} by two run-to-run sds, {:.2g} %",
                                 standingName(byTwoSds(improvement_percent, *pass_sd)), twoSdsPercent(*pass_sd)),
                     marks);
  return by_interval;
}

// Of the cases that the claim is about: a control beside them has a spread of its own.
static std::optional<double> pooledPassSd(const Findings& findings, std::span<const std::size_t> cases) {
  double squares = 0;
  int df = 0;
  for (const CaseFinding& finding : findings.cases) {
    if (!finding.spread || std::find(cases.begin(), cases.end(), finding.case_index) == cases.end()) continue;
    squares += finding.spread->pass_sd * finding.spread->pass_sd * finding.spread->df;
    df += finding.spread->df;
  }
  return df > 0 ? std::optional(std::sqrt(squares / df)) : std::nullopt;
}

std::string trendText(const PresetTrend& trend) {
  const PercentChange& points = trend.points;
  const bool is_open = !points.interval || (points.interval->lo <= 0 && points.interval->hi >= 0);
  return fmt::format("From {} to {} the improvement is {} percentage points {}{}, over the {} that {} both",
                     trend.first, trend.last, pointsText(points), points.value < 0 ? "smaller" : "larger",
                     is_open ? " (not settled)" : "", countText(trend.workloads, "workload", "workloads"),
                     trend.workloads == 1 ? "has" : "have");
}

namespace {

/// What the findings of a pair say in one line.
class PairClaim {
 public:
  PairClaim(const Study& study, const Findings& findings) : study_(study), findings_(findings) {}

  [[nodiscard]] std::optional<Told> of(const Subject& subject) const {
    return subject ? ofCase(findings_.cases[*subject]) : ofSuite(*findings_.suite);
  }

  // What a case yields where it runs at one level only: no change, but a result.
  [[nodiscard]] std::string onlyLevel() const {
    for (const CaseFinding& finding : findings_.cases) {
      if (!finding.only) continue;
      return fmt::format("{} has a result at {} only, {}", finding.title, study_.nameOf(finding.only->at),
                         levelText(finding.only->level, finding.metric, study_));
    }
    return {};
  }

 private:
  [[nodiscard]] Told ofSuite(const SuiteFinding& suite) const {
    Told told;
    told.metric = metricNames(study_, suite.cases);
    told.cases = suiteCasesText(study_, suite);
    const bool is_plain = std::all_of(suite.cases.begin(), suite.cases.end(), [&](std::size_t one) {
      return study_.cases[one].metric.direction == Direction::HigherIsBetter;
    });
    if (is_plain)
      told.outcome = changeText(suite.improvement);
    else
      setImprovement(told, suite);
    // A mean of cases that settle in opposite directions says nothing of any of them.
    if (findings_.gains() > 0 && findings_.losses() > 0)
      told.outcome += ", " + gainsAndLossesText(findings_.gains(), findings_.losses());
    told.verdict = verdictBy(study_, suite.improvement.value, pooledPassSd(findings_, suite.cases), verdictText(suite),
                             suite.marks);
    return told;
  }

  [[nodiscard]] std::optional<Told> ofCase(const CaseFinding& finding) const {
    Told told;
    told.metric = finding.metric.name;
    told.cases = finding.title;
    if (finding.effect && finding.effect->is_log) {
      told.outcome = changeText(finding.change);
      told.verdict = verdictBy(study_, finding.improvement.value, pooledPassSd(findings_, {&finding.case_index, 1}),
                               verdictText(finding), finding.marks);
    } else if (finding.difference) {
      told.outcome = unitChangeText(*finding.difference, finding.metric.unit);
      told.verdict = finding.why_no_effect.empty() ? verdictText(finding.verdict, finding.marks)
                                                   : "in its unit, without a verdict";
    } else {
      return std::nullopt;
    }
    return told;
  }

  // Where lower is better a suite can only be summed up as an improvement, so the sentence says that it is one.
  static void setImprovement(Told& told, const SuiteFinding& suite) {
    const PercentChange& change = suite.improvement;
    const bool is_better = change.interval && change.interval->lo > 0;
    const bool is_worse = change.interval && change.interval->hi < 0;
    if (is_better || is_worse) {
      told.verb = is_better ? "improves" : "worsens";
      told.outcome = sizeText(change);
    } else {
      const bool is_little = suite.verdict == Verdict::NoDifferenceThatMatters;
      told.outcome = (is_little ? "less than matters, " : "") + ("an improvement of " + changeText(change));
    }
  }

  const Study& study_;
  const Findings& findings_;
};

}  // namespace

Claim claimOf(const Study& study, const Findings& findings, std::span<const Unreachable> unreachable) {
  Claim claim;
  claim.bench = study.bench;
  claim.confidence = findings.confidence;
  claim.variable = study.variable().name;
  claim.baseline = study.nameOf(ConfigurationId::Baseline);
  claim.changed = study.nameOf(ConfigurationId::Changed);
  const auto subjects = headlineSubjects(study, findings.suite.has_value());
  std::vector<std::size_t> spoken_of;
  for (std::size_t i = 0; i < study.cases.size(); ++i)
    if (std::find(subjects.begin(), subjects.end(), Subject(i)) != subjects.end()) spoken_of.push_back(i);
  claim.metric = metricNames(study, spoken_of);
  claim.cases =
      study.firstPartCases() == 1 ? study.cases.front().title() : fmt::format("{} cases", study.firstPartCases());
  claim.outcome = notMeasured("", findings.done.is_first_done);
  const PairClaim pair(study, findings);
  std::vector<Told> told;
  for (const Subject& subject : subjects)
    if (auto one = findings.cases.empty() ? std::nullopt : pair.of(subject)) told.push_back(*std::move(one));
  fillClaim(claim, std::move(told));
  if (claim.has_result || findings.recorded_passes == 0) {
    // said, or there is nothing to say yet
  } else if (const std::string only = pair.onlyLevel(); findings.done.is_first_done && !only.empty()) {
    claim.outcome = "… " + only;
  } else {
    claim.outcome = notMeasured(" at both levels", findings.done.is_first_done);
  }
  if (!unreachable.empty() && !claim.has_result) {
    const std::string only = pair.onlyLevel();
    claim.outcome = fmt::format("… {} is not reachable here", study.nameOf(unreachable.back().configuration));
    claim.verdict = unreachable.back().reason;
    if (!only.empty()) claim.verdict += "; " + only;
  }
  return claim;
}

}  // namespace core
