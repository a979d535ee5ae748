#pragma once

#include <optional>
#include <string>

#include "core/findings/shape_findings.h"
#include "report/report.h"

namespace report {

/// Where the change along a chain comes from, as shapeSvg has it: a staircase.
[[nodiscard]] std::string chainSvg(const core::Study& study, const core::ShapeFindings& findings,
                                   std::optional<std::size_t> case_index, const Palette& palette, int width,
                                   int height);

}  // namespace report
