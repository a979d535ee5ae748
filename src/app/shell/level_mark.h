#pragma once

#include <QColor>
#include <QString>

#include "core/study/study.h"

class QCPScatterStyle;

namespace app {

/// The colour of a configuration: from the baseline's to the changed level's, in equal steps.
[[nodiscard]] QColor levelColour(const core::Study& study, core::ConfigurationId configuration);
/// A mark of its own shape, since colour alone tells nobody: an int of QCPScatterStyle::ScatterShape.
[[nodiscard]] int levelShape(core::ConfigurationId configuration);
/// "disc", "square", …
[[nodiscard]] QString levelShapeName(core::ConfigurationId configuration);

}  // namespace app
