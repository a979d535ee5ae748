#include "core/study/judging.h"

#include <vector>

#include <fmt/format.h>

namespace core {

Judging judgingOf(const Study& study) {
  return {study.notice_threshold_percent, study.notice_threshold_ms, study.yardstick, study.band_percent};
}

Study judgedBy(Study study, const Judging& judging) {
  study.notice_threshold_percent = judging.notice_threshold_percent;
  study.notice_threshold_ms = judging.notice_threshold_ms;
  study.yardstick = judging.yardstick;
  study.band_percent = judging.band_percent;
  return study;
}

std::string judgingChange(const Judging& from, const Judging& to) {
  std::vector<std::string> changes;
  if (from.notice_threshold_percent != to.notice_threshold_percent)
    changes.push_back(
        fmt::format("threshold {:g} % became {:g} %", from.notice_threshold_percent, to.notice_threshold_percent));
  const auto in_ms = [](const std::optional<double>& ms) {
    return ms ? fmt::format("{:g} ms per frame", *ms) : "none";
  };
  if (from.notice_threshold_ms != to.notice_threshold_ms)
    changes.push_back(
        fmt::format("threshold in time {} became {}", in_ms(from.notice_threshold_ms), in_ms(to.notice_threshold_ms)));
  if (from.yardstick != to.yardstick)
    changes.push_back(
        fmt::format("yardstick {} became {}", yardstickName(from.yardstick), yardstickName(to.yardstick)));
  if (from.band_percent != to.band_percent)
    changes.push_back(fmt::format("band {:g} % became {:g} %", from.band_percent, to.band_percent));
  return fmt::format("{}", fmt::join(changes, ", "));
}

}  // namespace core
