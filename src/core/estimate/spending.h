#pragma once

#include <span>
#include <vector>

namespace core {

/// The confidence of the interval at each of several looks at growing data, so that all of them together keep
/// `confidence`: hardly any of the error is spent early, nearly all at the end.
/// Shapes  fractions: of the rounds that each look has seen, ascending, the last 1; one confidence a look
/// Units   shares of 1; no look stands so high that a t of few rounds would have no end: at most 1/500 of the error is
///         held back from any
/// Source  Lan & DeMets 1983, spending function of the O'Brien-Fleming shape on each side; recursive
///         integration of Armitage, McPherson & Rowe 1969; t in place of z at the same level, held by simulation
[[nodiscard]] std::vector<double> spentConfidences(std::span<const double> fractions, double confidence);

}  // namespace core
