#pragma once

#include <span>

#include "core/findings/findings.h"
#include "core/record/case_passes.h"

namespace core {

/// Works out what one pass's frames say.
/// Shapes  targets_fps: the study's, at least one, the first of which is the one that time below is told of
/// Errors  those of trimFrames and frameMetrics
[[nodiscard]] Result<FrameSummary> summarizeFrames(std::span<const double> frame_ms, const Case& a_case,
                                                   std::span<const double> targets_fps);

/// The headline value of a pass with frames: their rate, or their mean time where the metric is in ms.
[[nodiscard]] double headlineOf(const FrameSummary& frames, const Metric& metric);

/// Adds what the frame logs of a case say beside its headline: the lows in three ways, time below the target,
/// stutters, long frames, and how many frames hold each target. Does nothing for a case without frame logs.
void fillSecondary(CaseFinding& finding, const Study& study, std::span<const CountedPass> counted,
                   std::span<const CountedPass> everywhere);

}  // namespace core
