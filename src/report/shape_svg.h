#pragma once

#include <optional>
#include <string>

#include "core/findings/shape_findings.h"
#include "report/report.h"

namespace report {

inline constexpr int kShapeWidth = 960;
inline constexpr int kShapeHeight = 420;

/// How high a picture of the study's shape must be at least, in pixels: `least`, or more where it has many rows.
[[nodiscard]] int shapeHeight(const core::Study& study, int least);

/// The picture of a study's shape as SVG: how far each step of a ladder carries, what one variable does at each level
/// of another with the grid of their cells, or where the loss along a chain goes. `case_index` nothing: the suite.
/// Shapes  `width` units wide, `height` high; empty for a pair, and where that case has no result to draw
[[nodiscard]] std::string shapeSvg(const core::Study& study, const core::ShapeFindings& findings,
                                   std::optional<std::size_t> case_index, const Palette& palette, int width,
                                   int height);

/// How a colour stands for a configuration: from the baseline's to the changed level's, in equal steps.
/// Shapes  `place` of `count`, from 0. As "#rrggbb"
[[nodiscard]] std::string stepColour(const Palette& palette, std::size_t place, std::size_t count);

}  // namespace report
