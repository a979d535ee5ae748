#include "core/findings/secondary.h"

#include "core/findings/bound.h"
#include "core/findings/suite_members.h"

#include <algorithm>
#include <array>
#include <cstdint>
#include <functional>
#include <utility>

#include <fmt/format.h>

namespace core {
namespace {

constexpr std::array<double, 2> kLowPercents{1.0, 0.1};

struct FrameReading {
  std::string name;
  std::string unit;
  Direction direction;
  std::function<double(const FrameSummary&)> value;
  std::function<std::size_t(const FrameSummary&)> rests_on;  // empty where it does not apply
};

FrameReading lowReading(std::size_t which, const char* school, Low Lows::*low) {
  return {fmt::format("{:g} % low ({})", kLowPercents[which], school), "FPS", Direction::HigherIsBetter,
          [=](const FrameSummary& pass) { return (pass.lows[which].*low).fps; },
          [=](const FrameSummary& pass) { return (pass.lows[which].*low).frames; }};
}

std::vector<FrameReading> readings(std::span<const double> targets_fps) {
  std::vector<FrameReading> list;
  for (const std::size_t which : {std::size_t{0}, std::size_t{1}}) {
    list.push_back(lowReading(which, "percentile", &Lows::percentile));
    list.push_back(lowReading(which, "mean of slowest", &Lows::slowest_mean));
    list.push_back(lowReading(which, "time share", &Lows::time_share));
  }
  list.push_back({fmt::format("time below {:g} FPS", targets_fps.front()),
                  "%",
                  Direction::LowerIsBetter,
                  [](const FrameSummary& pass) { return pass.below_target_percent; },
                  {}});
  list.push_back({"stutters a minute",
                  "",
                  Direction::LowerIsBetter,
                  [](const FrameSummary& pass) { return pass.stutters_per_minute; },
                  {}});
  for (std::size_t i = 0; i < kLongFrameMs.size(); ++i)
    list.push_back({fmt::format("frames over {:g} ms a minute", kLongFrameMs[i]),
                    "",
                    Direction::LowerIsBetter,
                    [i](const FrameSummary& pass) { return pass.long_frames.per_minute[i]; },
                    {}});
  list.push_back({"longest frame",
                  "ms",
                  Direction::LowerIsBetter,
                  [](const FrameSummary& pass) { return pass.long_frames.longest_ms; },
                  {}});
  for (std::size_t i = 0; i < targets_fps.size(); ++i)
    list.push_back({fmt::format("frames that hold {:g} FPS", targets_fps[i]),
                    "%",
                    Direction::HigherIsBetter,
                    [i](const FrameSummary& pass) { return pass.holding_percent[i]; },
                    {}});
  return list;
}

std::optional<std::size_t> fewest(std::span<const CountedPass> counted,
                                  const std::function<std::size_t(const FrameSummary&)>& count) {
  std::optional<std::size_t> least;
  for (const CountedPass& pass : counted)
    if (pass.pass->frames) least = std::min(least.value_or(SIZE_MAX), count(*pass.pass->frames));
  return least;
}

std::optional<SecondaryMetric> secondaryOf(const FrameReading& reading, std::span<const CountedPass> counted,
                                           std::span<const CountedPass> everywhere, const Study& study) {
  const auto valueOf = [&](const Pass& pass) {
    return pass.frames ? std::optional(reading.value(*pass.frames)) : std::nullopt;
  };
  const auto effect = effectOf(visitValues(counted, valueOf), study.confidence, {}, Scale::Ratio,
                               sharingVisits(study, visitValues(everywhere, valueOf)));
  if (!effect) return std::nullopt;
  SecondaryMetric metric{
      reading.name, reading.unit, reading.direction, effect->level_baseline, effect->level_changed, {}, {}, 0, {}};
  const Metric as_metric{reading.name, reading.unit, reading.direction};
  metric.holds = {holdsTarget(effect->baseline_units, effect->is_log, as_metric, study, study.target_fps),
                  holdsTarget(effect->changed_units, effect->is_log, as_metric, study, study.target_fps)};
  if (effect->is_log) {
    metric.change = percentChangeOf(effect->contrast);
    metric.improvement = improvementPercent(*effect, reading.direction).interval;
  }
  if (reading.rests_on) metric.fewest_frames = fewest(counted, reading.rests_on).value_or(0);
  return metric;
}

Result<FrameSummary> summaryOf(std::span<const double> frame_ms, std::span<const double> targets_fps) {
  const auto metrics = frameMetrics(frame_ms, kLowPercents);
  if (!metrics) return metrics.error();
  std::vector<double> holding_percent;
  for (const double target : targets_fps) holding_percent.push_back(100 * framesHolding(frame_ms, target));
  return FrameSummary{metrics->frames,
                      metrics->average_fps,
                      metrics->lows,
                      100 * timeBelowTarget(frame_ms, targets_fps.front()),
                      metrics->stutters_per_minute,
                      cappedAt(frame_ms, metrics->median_frame_ms),
                      metrics->long_frames,
                      metrics->median_frame_ms,
                      std::move(holding_percent)};
}

}  // namespace

Result<FrameSummary> summarizeFrames(std::span<const double> frame_ms, const Case& a_case,
                                     std::span<const double> targets_fps) {
  if (a_case.trim_first_s == 0 && a_case.trim_last_s == 0) return summaryOf(frame_ms, targets_fps);  // most passes
  const auto kept = trimFrames(frame_ms, a_case.trim_first_s, a_case.trim_last_s);
  return kept ? summaryOf(*kept, targets_fps) : kept.error();
}

double headlineOf(const FrameSummary& frames, const Metric& metric) {
  return metric.unit == "ms" ? 1000.0 / frames.average_fps : frames.average_fps;
}

void fillSecondary(CaseFinding& finding, const Study& study, std::span<const CountedPass> counted,
                   std::span<const CountedPass> everywhere) {
  if (!finding.effect) return;
  finding.fewest_frames = fewest(counted, [](const FrameSummary& summary) { return summary.frames; });
  if (!finding.fewest_frames) return;
  for (const FrameReading& reading : readings(study.targets()))
    if (auto metric = secondaryOf(reading, counted, everywhere, study)) finding.secondary.push_back(*std::move(metric));
  const FrameReading median{"median frame",
                            "ms",
                            Direction::LowerIsBetter,
                            [](const FrameSummary& pass) { return pass.median_frame_ms; },
                            {}};
  if (const auto metric = secondaryOf(median, counted, everywhere, study); metric && metric->change)
    finding.median_frame_percent = metric->change->value;
}

}  // namespace core
