#pragma once

#include <QImage>

#include "core/judgement/judgement.h"
#include "report/report.h"

namespace app {

/// The lever chart as a picture, `width` pixels wide and `scale` times as fine: what the report's SVG shows, for where
/// no SVG can be shown.
[[nodiscard]] QImage leverPicture(const core::Study& study, const core::Judgement& judgement,
                                  const report::Palette& palette, int width, double scale = 1, report::Rows part = {});

}  // namespace app
