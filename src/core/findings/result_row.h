#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/findings/findings.h"
#include "core/study/study.h"

namespace core {

/// One row of the answer, ready to be printed and drawn: window, page and command line show the same. Percentages are
/// improvements: positive is better.
struct ResultRow {
  std::string title;
  std::string subtitle;           ///< the preset, with what else must be known to read the row
  std::string remark;             ///< with which it was pinned; empty where it was not
  std::string change;             ///< "+4.0 % (3.0 to 5.0)", "−1.20 dB (−1.50 to −0.90)"
  std::string verdict;            ///< in words, with its marks; or why there is none
  std::optional<double> percent;  ///< absent: nothing to draw
  std::optional<PercentInterval> interval;
  std::optional<NoticeThreshold> threshold;  ///< with a percentage
  double spread_percent = 0;                 ///< run-to-run spread, one sd; 0 = not known
  bool is_counted = false;                   ///< carries no mark
  std::optional<std::size_t> case_index;     ///< absent for the suite and its parts
};

/// The verdict on a case in words, with what decided and its marks; or why there is none.
[[nodiscard]] std::string verdictText(const CaseFinding& finding);
[[nodiscard]] std::string verdictText(const SuiteFinding& suite);
/// "2 gain, 1 loses"; empty where none of them loses: then the mean says it.
[[nodiscard]] std::string gainsAndLossesText(int gains, int losses);

/// A case's title in a list of all; one of a second part says so.
[[nodiscard]] std::string listedTitle(const Study& study, const CaseFinding& finding);

/// The change of a case's metric, in percent or in its unit; empty without one.
[[nodiscard]] std::string changeOf(const CaseFinding& finding);
/// "9 cases", or "12 of 15 cases" where some are not summed up.
[[nodiscard]] std::string suiteCasesText(std::size_t all, std::size_t summed_up);
[[nodiscard]] std::string suiteCasesText(const Study& study, const SuiteFinding& suite);

[[nodiscard]] ResultRow suiteRow(const Study& study, const SuiteFinding& suite);
/// A part of the suite has the marks of the whole.
[[nodiscard]] ResultRow readingRow(const SuiteReading& reading, const SuiteFinding& suite);
[[nodiscard]] ResultRow caseRow(const Study& study, const CaseFinding& finding,
                                const std::map<std::string, std::string>& pins);

/// All rows: the suite first, then what people pinned, then the others from the largest improvement to the largest loss
/// with those without a percentage last.
[[nodiscard]] std::vector<ResultRow> resultRows(const Study& study, const Findings& findings,
                                                const std::map<std::string, std::string>& pins);

}  // namespace core
