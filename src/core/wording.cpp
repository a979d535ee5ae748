#include "core/wording.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include <fmt/format.h>

#include "core/result_row.h"

namespace core {
namespace {

constexpr const char* kMinus = "\u2212";

// One number at a time: a true minus sign, and none before digits that are all zero, which show no direction.
std::string withMinus(std::string text) {
  if (text.find_first_of("123456789") == std::string::npos && !text.empty() &&
      (text.front() == '-' || text.front() == '+'))
    text.erase(0, 1);
  if (!text.empty() && text.front() == '-') text.replace(0, 1, kMinus);
  return text;
}

int percentDecimals(double percent) { return std::abs(percent) < 0.995 ? 2 : 1; }

bool isRate(const std::string& unit) { return unit == "FPS" || unit == "fps"; }

std::string metricNames(const Study& study) {
  std::vector<std::string> names;
  for (const Case& a_case : study.cases)
    if (std::find(names.begin(), names.end(), a_case.metric.name) == names.end()) names.push_back(a_case.metric.name);
  if (names.empty()) return "the result";
  if (names.size() > 2) return "the headline metrics";
  return names.size() == 2 ? names[0] + " and " + names[1] : names[0];
}

}  // namespace

std::string percentText(double percent) {
  return withMinus(fmt::format("{:+.{}f} %", percent, percentDecimals(percent)));
}

std::string intervalText(const PercentChange& change) {
  if (!change.interval) return "";
  const int decimals = percentDecimals(change.value);
  return withMinus(fmt::format("{:.{}f}", change.interval->lo, decimals)) + " to " +
         withMinus(fmt::format("{:.{}f}", change.interval->hi, decimals));
}

std::string changeText(const PercentChange& change) {
  const std::string interval = intervalText(change);
  return interval.empty() ? percentText(change.value) : percentText(change.value) + " (" + interval + ")";
}

std::string numberText(double value, const std::string& unit) {
  constexpr double kMostDigits = 1e15;
  if (std::abs(value) >= kMostDigits) return withMinus(fmt::format("{:.4g}", value));
  if (isRate(unit) || unit == "%") return withMinus(fmt::format("{:.1f}", value));
  if (unit == "ms") return withMinus(fmt::format("{:.2f}", value));
  const int decimals = value == 0 ? 1 : std::clamp(3 - static_cast<int>(std::floor(std::log10(std::abs(value)))), 0, 6);
  return withMinus(fmt::format("{:.{}f}", value, decimals));
}

std::string valueText(double value, const std::string& unit) {
  return unit.empty() ? numberText(value, unit) : numberText(value, unit) + " " + unit;
}

std::string differenceText(double value, const std::string& unit) {
  return withMinus(fmt::format("{:+.2f}", value)) + (unit.empty() ? "" : " " + unit);
}

std::string unitChangeText(const UnitChange& change, const std::string& unit) {
  std::string text = differenceText(change.value, unit);
  if (change.interval)
    text += fmt::format(" ({} to {})", withMinus(fmt::format("{:.2f}", change.interval->first)),
                        withMinus(fmt::format("{:.2f}", change.interval->second)));
  return text;
}

static std::string withMarks(std::string text, const Marks& marks) {
  for (const std::string& mark : marks.names()) text += ", " + mark;
  return text;
}

std::string verdictText(Verdict verdict, const Marks& marks) { return withMarks(verdictName(verdict), marks); }

std::string pText(double p) { return p < 1e-4 ? "p < 0.0001" : fmt::format("p {:.2g}", p); }

std::string countText(int count, const char* one, const char* many) {
  return fmt::format("{} {}", count, count == 1 ? one : many);
}

std::string durationText(double seconds) {
  const auto whole = static_cast<std::int64_t>(std::llround(std::max(0.0, seconds)));
  if (whole < 90) return fmt::format("{} s", whole);
  const std::int64_t minutes = (whole + 30) / 60;
  if (minutes < 60) return fmt::format("{} min", minutes);
  return fmt::format("{} h {} min", minutes / 60, minutes % 60);
}

std::string Claim::sentence() const {
  return fmt::format("On {}, moving the {} from {} to {} changes {} over {} by {}", bench, variable, baseline, changed,
                     metric, cases, outcome) +
         ending();
}

std::string Claim::ending() const {
  if (is_stopped) return " … not yet a single-variable comparison";
  return verdict.empty() ? "" : ": " + verdict;
}

// Which yardstick a claim rests on is named wherever it is not the interval.
static std::string verdictBy(const Study& study, double improvement_percent, std::optional<double> pass_sd,
                             Verdict by_interval, const Marks& marks) {
  if (study.yardstick == Yardstick::FixedBand)
    return withMarks(
        fmt::format("{} by a fixed band of {:g} %", standingName(byFixedBand(improvement_percent, study.band_percent)),
                    study.band_percent),
        marks);
  if (study.yardstick == Yardstick::TwoRunToRunSds && pass_sd)
    return withMarks(fmt::format("{} by two run-to-run sds, {:.2g} %",
                                 standingName(byTwoSds(improvement_percent, *pass_sd)), twoSdsPercent(*pass_sd)),
                     marks);
  return verdictText(by_interval, marks);
}

// Of all cases that are summed up.
static std::optional<double> pooledPassSd(const Findings& findings) {
  double squares = 0;
  int df = 0;
  for (const CaseFinding& finding : findings.cases) {
    if (!finding.spread) continue;
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
  const double loss = lossBoundPercent(study.notice_threshold_percent);
  for (const CaseFinding& finding : findings.cases) {
    if (!study.cases[finding.case_index].shouldRespond()) continue;
    const bool is_judged = finding.effect && finding.why_no_effect.empty();
    has_result = has_result || is_judged;
    const bool is_ruled_out =
        is_judged &&
        (finding.effect->is_log ? finding.improvement.interval && finding.improvement.interval->lo > loss
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
  const auto more = [](int others) { return others > 0 ? fmt::format(", and {} more", others) : std::string(); };
  if (loser) {
    const std::string lost = loser->effect->is_log
                                 ? withMinus(fmt::format("{:.1f} %", std::abs(loser->improvement.value)))
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
                   provisional(findings.suite ? findings.suite->marks : findings.cases.front().marks));
}

std::string trendText(const PresetTrend& trend) {
  const double value = trend.change.value;
  const bool is_open = !trend.change.interval || (trend.change.interval->lo <= 0 && trend.change.interval->hi >= 0);
  const char* less = trend.is_gain ? "shrinks" : "falls";
  const char* more = trend.is_gain ? "grows" : "rises";
  PercentChange size{std::abs(value), trend.change.interval};
  if (size.interval && value < 0)
    size.interval = PercentInterval{-trend.change.interval->hi, -trend.change.interval->lo};
  std::string amount = changeText(size);
  if (amount.starts_with("+")) amount.erase(0, 1);
  return fmt::format("From {} to {} the improvement {} by {}{}", trend.first, trend.last, value < 0 ? less : more,
                     amount, is_open ? ", not settled" : "");
}

std::string passName(const Slot& slot) {
  return fmt::format("visit {}, {} {}", slot.visit, slot.is_warm_up ? "warm-up" : "pass", slot.number);
}

Claim claimOf(const Study& study, const Findings& findings, std::span<const Unreachable> unreachable) {
  Claim claim;
  claim.bench = study.bench;
  claim.variable = study.variable;
  claim.baseline = study.levels[0].name;
  claim.changed = study.levels[1].name;
  claim.metric = metricNames(study);
  claim.outcome = "… not measured yet";
  claim.cases = study.cases.size() == 1 ? study.cases.front().title()
                : findings.suite        ? suiteCasesText(study, *findings.suite)
                                        : fmt::format("{} cases", study.cases.size());
  claim.safety = safetyText(study, findings);
  if (findings.suite) {
    // Where lower is better a suite can only be summed up as an improvement, so the sentence says that it is one.
    const bool is_plain = std::all_of(study.cases.begin(), study.cases.end(), [](const Case& a_case) {
      return a_case.metric.direction == Direction::HigherIsBetter;
    });
    claim.outcome = (is_plain ? "" : "an improvement of ") + changeText(findings.suite->improvement);
    // A mean of cases that settle in opposite directions says nothing of any of them.
    if (findings.readings && findings.readings->gains > 0 && findings.readings->losses > 0)
      claim.outcome += fmt::format(", {} gain, {} lose", findings.readings->gains, findings.readings->losses);
    claim.verdict = verdictBy(study, findings.suite->improvement.value, pooledPassSd(findings), findings.suite->verdict,
                              findings.suite->marks);
    claim.has_result = true;
  } else if (findings.cases.size() == 1 && findings.cases.front().effect && findings.cases.front().effect->is_log) {
    const CaseFinding& only = findings.cases.front();
    claim.outcome = changeText(only.change);
    claim.verdict = verdictBy(study, only.improvement.value, pooledPassSd(findings), only.verdict, only.marks);
    claim.has_result = true;
  } else if (findings.cases.size() == 1 && findings.cases.front().difference) {
    const CaseFinding& only = findings.cases.front();
    claim.outcome = unitChangeText(*only.difference, only.metric.unit);
    claim.verdict =
        only.why_no_effect.empty() ? verdictText(only.verdict, only.marks) : "in its unit, without a verdict";
    claim.has_result = true;
  } else if (findings.recorded_passes > 0) {
    claim.outcome = "… not measured at both levels yet";
  }
  if (!unreachable.empty() && !claim.has_result) {
    claim.outcome = fmt::format("… {} is not reachable here", study.level(unreachable.back().side).name);
    claim.verdict = unreachable.back().reason;
  }
  return claim;
}

}  // namespace core
