#include "core/findings/result_row.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "core/estimate/wording.h"

namespace core {
namespace {

ResultRow summedRow(std::string title, std::string subtitle, const PercentChange& improvement,
                    const NoticeThreshold& threshold, Verdict verdict, const Marks& marks) {
  ResultRow row;
  row.title = std::move(title);
  row.subtitle = std::move(subtitle);
  row.change = changeText(improvement);
  row.verdict = verdictText(verdict, threshold, marks);
  row.threshold = threshold;
  row.percent = improvement.value;
  row.interval = improvement.interval;
  row.is_counted = !marks.any();
  return row;
}

}  // namespace

std::string verdictText(const CaseFinding& finding) {
  if (!finding.why_no_effect.empty()) return finding.why_no_effect;
  return finding.difference ? verdictText(finding.verdict, finding.marks)
                            : verdictText(finding.verdict, finding.threshold, finding.marks);
}

std::string gainsAndLossesText(int gains, int losses) {
  if (losses == 0) return {};
  const std::string lose = fmt::format("{} {}", losses, losses == 1 ? "loses" : "lose");
  return gains == 0 ? lose : fmt::format("{} {}, {}", gains, gains == 1 ? "gains" : "gain", lose);
}

std::string listedTitle(const Study& study, const CaseFinding& finding) {
  return finding.title + (study.cases[finding.case_index].is_second_part ? " (added later)" : "");
}

std::string changeOf(const CaseFinding& finding) {
  if (finding.difference) return unitChangeText(*finding.difference, finding.metric.unit);
  return finding.effect ? changeText(finding.change) : "";
}

std::string verdictText(const SuiteFinding& suite) { return verdictText(suite.verdict, suite.threshold, suite.marks); }

std::string suiteCasesText(std::size_t all, std::size_t summed_up) {
  return summed_up == all ? fmt::format("{} cases", all) : fmt::format("{} of {} cases", summed_up, all);
}

std::string suiteCasesText(const Study& study, const SuiteFinding& suite) {
  return suiteCasesText(study.firstPartCases(), suite.cases.size());
}

ResultRow suiteRow(const Study& study, const SuiteFinding& suite) {
  std::string title = suiteCasesText(study, suite);
  if (suite.cases.size() == study.firstPartCases()) title = "All " + title;
  return summedRow(std::move(title), "this suite, equal weight", suite.improvement, suite.threshold, suite.verdict,
                   suite.marks);
}

ResultRow readingRow(const SuiteReading& reading, const SuiteFinding& suite) {
  return summedRow(reading.name, reading.cases == 1 ? "1 case" : fmt::format("{} cases", reading.cases),
                   reading.improvement, reading.threshold, reading.verdict, suite.marks);
}

ResultRow caseRow(const Study& study, const CaseFinding& finding, const std::map<std::string, std::string>& pins) {
  const Case& a_case = study.cases[finding.case_index];
  ResultRow row;
  row.title = a_case.workload;
  row.subtitle = a_case.variant();
  const auto note = [&](const char* words) {
    row.subtitle += (row.subtitle.empty() ? "" : " · ") + std::string(words);
  };
  if (a_case.metric.direction == Direction::LowerIsBetter) note("lower is better");
  if (!a_case.shouldRespond()) note("should not respond");
  if (a_case.is_second_part) note("added later");
  row.case_index = finding.case_index;
  if (const auto pin = pins.find(finding.title); pin != pins.end()) row.remark = pin->second;
  row.verdict = verdictText(finding);
  if (finding.difference) {
    row.change = unitChangeText(*finding.difference, finding.metric.unit);
    row.is_counted = finding.why_no_effect.empty() && !finding.marks.any();
  }
  if (!finding.effect || !finding.effect->is_log) return row;
  row.change = changeText(finding.improvement);
  row.percent = finding.improvement.value;
  row.threshold = finding.threshold;
  row.interval = finding.improvement.interval;
  row.spread_percent = finding.spread ? finding.spread->percent : 0;
  row.is_counted = !finding.marks.any();
  return row;
}

std::vector<ResultRow> resultRows(const Study& study, const Findings& findings,
                                  const std::map<std::string, std::string>& pins) {
  std::vector<ResultRow> rows;
  for (const CaseFinding& finding : findings.cases) rows.push_back(caseRow(study, finding, pins));
  std::stable_sort(rows.begin(), rows.end(), [](const ResultRow& a, const ResultRow& b) {
    if (a.remark.empty() != b.remark.empty()) return b.remark.empty();
    return a.percent.value_or(-INFINITY) > b.percent.value_or(-INFINITY);
  });
  if (findings.suite) rows.insert(rows.begin(), suiteRow(study, *findings.suite));
  return rows;
}

}  // namespace core
