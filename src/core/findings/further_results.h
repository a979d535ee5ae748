#pragma once

#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/estimate/claims.h"
#include "core/estimate/notice_threshold.h"
#include "core/findings/told_change.h"
#include "core/record/record.h"
#include "core/record/sheet_ledger.h"
#include "core/study/asked_contrasts.h"

namespace core {

/// A result of a case at one configuration.
struct ResultAt {
  ConfigurationId configuration{};
  double mean = 0;  ///< geometric where the metric is a ratio, in its unit
  int passes = 0;
};

/// What the passes of a case say of one of its results beside the headline. It is judged as a headline is, and is no
/// member of any suite.
struct FurtherFinding : Claimed, ToldChange {
  std::size_t case_index = 0;
  std::size_t place = 0;         ///< among the case's further results
  std::vector<ResultAt> at;      ///< by configuration, those that have it
  std::optional<double> p_zero;  ///< of the contrast, also where there is no verdict to have
  NoticeThreshold threshold;
  int missing = 0;           ///< counted passes that do not say it
  std::string first_reason;  ///< of the first of them
};

/// Every result beside the headlines between two configurations, case by case, each in the order in which its case
/// lists them. Empty where no case has any.
/// Shapes  passes of `retired_visits` (by id) stay out, and for each result those that do not say it
/// Source  the contrast of the case, by the estimator that the passes allow which have the result. Each name is a Holm
///         family over the cases that have it: of all contrasts of a kind where the study asks several; of two that
///         were chosen afterwards alone
[[nodiscard]] std::vector<FurtherFinding> furtherFindingsOf(const Study& study, const Record& record,
                                                            std::span<const std::int64_t> retired_visits, PairOf pair,
                                                            const PartsDone& done);

/// Those of one case.
[[nodiscard]] std::vector<const FurtherFinding*> furtherOf(std::span<const FurtherFinding> all, std::size_t case_index);

/// "load time: 4.2 s to 3.1 s, +35 % (30 to 40): gain": a result in one line, without its case.
[[nodiscard]] std::string furtherText(const FurtherFinding& finding, const Study& study);

}  // namespace core
