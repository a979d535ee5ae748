#pragma once

#include <QImage>

#include "core/findings.h"
#include "report/report.h"

namespace app {

/// The lever chart as a picture, `width` pixels wide and `scale` times as fine: what the report's SVG shows, for where
/// no SVG can be shown.
[[nodiscard]] QImage leverPicture(const core::Study& study, const core::Findings& findings,
                                  const report::Palette& palette, int width, double scale = 1, report::Rows part = {});

}  // namespace app
