#include "core/judgement/claim.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/findings/headline.h"
#include "core/findings/result_row.h"

namespace core {
std::string metricNames(const Study& study) {
  std::vector<std::string> names;
  for (const Case& a_case : study.cases)
    if (std::find(names.begin(), names.end(), a_case.metric.name) == names.end()) names.push_back(a_case.metric.name);
  if (names.empty()) return "the result";
  if (names.size() > 2) return "the headline metrics";
  return names.size() == 2 ? names[0] + " and " + names[1] : names[0];
}

std::vector<ClaimPart> Claim::parts() const {
  std::vector<ClaimPart> parts{{"", "On "}, {"bench", bench}};
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
  return verdict.empty() ? "" : ": " + verdict;
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

// Each case stands for itself here: no family is adjusted for.
static Marks provisional(Marks marks) {
  marks.not_after_adjustment_for.reset();
  return marks;
}

std::string safetyText(const Study& study, const Findings& findings) {
  const CaseFinding* loser = nullptr;       // surely loses as much as matters
  const CaseFinding* open_loser = nullptr;  // surely loses
  const CaseFinding* open = nullptr;        // may lose
  int losers = 0;
  int open_cases = 0;
  bool has_result = false;
  for (const CaseFinding& finding : findings.cases) {
    if (!study.cases[finding.case_index].shouldRespond()) continue;
    const bool is_judged = finding.effect && finding.why_no_effect.empty();
    has_result = has_result || is_judged;
    const bool is_ruled_out =
        is_judged &&
        (finding.effect->is_log
             ? finding.improvement.interval && finding.improvement.interval->lo > finding.threshold.loss_percent
             : finding.verdict == Verdict::Gain || finding.verdict == Verdict::GainSizeNotSettled ||
                   finding.verdict == Verdict::RealButNegligible ||
                   finding.verdict == Verdict::NoDifferenceThatMatters);
    if (is_judged && finding.verdict == Verdict::Loss) {
      ++losers;
      if (!loser || finding.improvement.value < loser->improvement.value) loser = &finding;
    } else if (is_judged && finding.verdict == Verdict::LossSizeNotSettled) {
      if (!open_loser) open_loser = &finding;
    } else if (!is_ruled_out) {
      ++open_cases;
      if (!open) open = &finding;
    }
  }
  if (!has_result) return {};
  const CaseFinding* only = headlineCase(study, findings);
  const auto more = [](int others) { return others > 0 ? fmt::format(", and {} more", others) : std::string(); };
  if (loser) {
    const std::string lost = loser->effect->is_log ? fmt::format("{:.1f} %", std::abs(loser->improvement.value))
                                                   : valueText(std::abs(loser->difference->value), loser->metric.unit);
    return withMarks(fmt::format("Not safe to leave on: {} loses {}{}", loser->title, lost, more(losers - 1)),
                     provisional(loser->marks));
  }
  if (open_loser)
    return fmt::format("Open whether it is safe to leave on: {} loses, by how much is not settled", open_loser->title);
  if (open)
    return fmt::format("Open whether it is safe to leave on: a loss that matters is not ruled out for {}{}",
                       open->title, more(open_cases - 1));
  return withMarks("Safe to leave on: no case loses as much as matters",
                   provisional(only             ? only->marks
                               : findings.suite ? findings.suite->marks
                                                : findings.cases.front().marks));
}

std::string trendText(const PresetTrend& trend) {
  const double value = trend.change.value;
  const bool is_open = !trend.change.interval || (trend.change.interval->lo <= 0 && trend.change.interval->hi >= 0);
  const char* less = trend.is_gain ? "shrinks" : "falls";
  const char* more = trend.is_gain ? "grows" : "rises";
  return fmt::format("From {} to {} the improvement {} by {}{}", trend.first, trend.last, value < 0 ? less : more,
                     sizeText(trend.change), is_open ? ", not settled" : "");
}

// Where lower is better a suite can only be summed up as an improvement, so the sentence says that it is one.
static void setImprovement(Claim& claim, const SuiteFinding& suite) {
  const PercentChange& change = suite.improvement;
  const bool is_better = change.interval && change.interval->lo > 0;
  const bool is_worse = change.interval && change.interval->hi < 0;
  if (is_better || is_worse) {
    claim.verb = is_better ? "improves" : "worsens";
    claim.outcome = sizeText(change);
  } else {
    const bool is_little = suite.verdict == Verdict::NoDifferenceThatMatters;
    claim.outcome = (is_little ? "less than matters, " : "") + ("an improvement of " + changeText(change));
  }
}

Claim claimOf(const Study& study, const Findings& findings, std::span<const Unreachable> unreachable) {
  Claim claim;
  claim.bench = study.bench;
  claim.variable = study.variable().name;
  claim.baseline = study.nameOf(Side::Baseline);
  claim.changed = study.nameOf(Side::Changed);
  claim.metric = metricNames(study);
  claim.outcome = "… not measured yet";
  const CaseFinding* only = headlineCase(study, findings);
  claim.cases = study.cases.size() == 1 ? study.cases.front().title()
                : only                  ? only->title
                : findings.suite        ? suiteCasesText(study, *findings.suite)
                                        : fmt::format("{} cases", study.cases.size());
  claim.safety = safetyText(study, findings);
  if (findings.suite) {
    const bool is_plain = std::all_of(study.cases.begin(), study.cases.end(), [](const Case& a_case) {
      return a_case.metric.direction == Direction::HigherIsBetter;
    });
    if (is_plain)
      claim.outcome = changeText(findings.suite->improvement);
    else
      setImprovement(claim, *findings.suite);
    // A mean of cases that settle in opposite directions says nothing of any of them.
    if (findings.readings && findings.readings->gains > 0 && findings.readings->losses > 0)
      claim.outcome += fmt::format(", {} gain, {} lose", findings.readings->gains, findings.readings->losses);
    claim.verdict = verdictBy(study, findings.suite->improvement.value, pooledPassSd(findings, findings.suite->cases),
                              verdictText(*findings.suite), findings.suite->marks);
    claim.has_result = true;
  } else if (only && only->effect && only->effect->is_log) {
    claim.outcome = changeText(only->change);
    claim.verdict = verdictBy(study, only->improvement.value, pooledPassSd(findings, {&only->case_index, 1}),
                              verdictText(*only), only->marks);
    claim.has_result = true;
  } else if (only && only->difference) {
    claim.outcome = unitChangeText(*only->difference, only->metric.unit);
    claim.verdict =
        only->why_no_effect.empty() ? verdictText(only->verdict, only->marks) : "in its unit, without a verdict";
    claim.has_result = true;
  } else if (findings.recorded_passes > 0) {
    claim.outcome = "… not measured at both levels yet";
  }
  if (!unreachable.empty() && !claim.has_result) {
    claim.outcome = fmt::format("… {} is not reachable here", study.nameOf(unreachable.back().side));
    claim.verdict = unreachable.back().reason;
  }
  return claim;
}

}  // namespace core
