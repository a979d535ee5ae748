#pragma once

#include <string>
#include <vector>

#include "core/study/study.h"

namespace core {

/// The confidence of the intervals at each planned look, so that all looks together keep what was asked; one, that of
/// the end, where none is planned. Shares of 1.
/// Source  Bonferroni over three looks, or spentConfidences
[[nodiscard]] std::vector<double> lookConfidences(const Study& study);

/// At the end of the plan: what it is planned for.
[[nodiscard]] double endConfidence(const Study& study);

/// "95 %", "98.3 %", "99.98 %": never rounded to a certainty that nobody has.
[[nodiscard]] std::string confidenceText(double confidence);

/// What the looks cost, to be told before they are chosen: how much wider the interval is at the end, how sure one must
/// be to stop before. Empty where none is planned.
[[nodiscard]] std::string lookPriceText(const Study& study);

}  // namespace core
