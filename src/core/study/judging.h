#pragma once

#include <optional>
#include <string>

#include "core/study/study.h"

namespace core {

/// By what results are judged, and nothing of how they are measured: what may be changed after the first pass, on
/// record.
struct Judging {
  double notice_threshold_percent = 2;
  std::optional<double> notice_threshold_ms = {};
  Yardstick yardstick = Yardstick::Interval;
  double band_percent = 3;

  bool operator==(const Judging&) const = default;
};
[[nodiscard]] Judging judgingOf(const Study& study);
/// The study judged otherwise.
[[nodiscard]] Study judgedBy(Study study, const Judging& judging);
/// What differs, in words: "threshold 2 % became 1 %, yardstick interval became fixed band". Empty where nothing does.
[[nodiscard]] std::string judgingChange(const Judging& from, const Judging& to);

}  // namespace core
