#pragma once

#include <QString>

#include "app/model/study_model.h"

namespace app {

/// What was chosen at each step of the question, one sentence a step: what stands on a card that is closed.
[[nodiscard]] QString whatIsChanged(const core::Study& study);
[[nodiscard]] QString betweenWhich(const core::Study& study);
[[nodiscard]] QString measuredWith(const core::Study& study);
[[nodiscard]] QString whatMatters(const core::Study& study);

/// The first step that nobody has answered yet, 1 to 3; 0 where all are.
[[nodiscard]] int firstOpenStep(const core::Study& study);

/// What the bench is at this moment, part by part: a name and what is read. Parts that say nothing are left out.
[[nodiscard]] std::vector<std::pair<QString, QString>> partsOf(const core::Capture& capture);

/// Rates as a person types them, parted by spaces, for a comma may be a decimal one: "30 120".
[[nodiscard]] QString ratesText(const std::vector<double>& rates_fps);
[[nodiscard]] std::vector<double> ratesOf(const QString& text);

}  // namespace app
