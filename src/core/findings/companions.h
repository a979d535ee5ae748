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

/// What a case yields beside its companion against the same case alone, at one configuration.
struct BesideAt : ToldChange {
  ConfigurationId configuration{};
  int passes = 0;  ///< that were compared with one alone
};

/// Does the change come out better, or worse, while something runs beside the case?
enum class BesideReading { More, Less, Same, Open };
/// "more", "less", "same", "open". Scripts may rely on it.
[[nodiscard]] const char* besideReadingName(BesideReading reading);

/// A case with a companion held against the same case alone. As a claim: what the change brings beside it, against what
/// it brings alone.
struct CompanionFinding : Claimed, ToldChange {
  std::size_t case_index = 0;   ///< with the companion
  std::size_t alone_index = 0;  ///< without
  std::vector<BesideAt> at;     ///< by configuration, those at which both have a pass in one visit
  std::optional<double> p_zero;
  NoticeThreshold threshold;

  [[nodiscard]] BesideReading reading() const;
};

/// Every case that the study has both with a companion and alone, between two configurations.
/// Shapes  passes of `retired_visits` (by id) stay out; within a visit the first counted pass of the one is held
///         against the first of the other, and so on
/// Source  the contrast of the case on these quotients (differences where the metric is one): the flips and the drift
///         that both share are in neither; Holm 1979 over all such cases
[[nodiscard]] std::vector<CompanionFinding> companionFindingsOf(const Study& study, const Record& record,
                                                                std::span<const std::int64_t> retired_visits,
                                                                PairOf pair, const PartsDone& done);

/// "Ring pass, beside a recording, against alone: improvement −12.3 % (−14.0 to −10.6) at 4 cores, −3.1 % (−4.2 to
/// −2.0) at 8 cores. The change from 4 cores to 8 cores comes out better beside it than alone: +10.5 % (8.1 to 12.9)",
/// with its marks, without its full stop.
[[nodiscard]] std::string companionText(const CompanionFinding& finding, const Study& study, PairOf pair);

}  // namespace core
