#pragma once

#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "core/findings/shape_findings.h"
#include "core/study/study.h"

namespace core {

/// What a contrast brings for its price, in the study's headline.
struct Value {
  PairOf pair;
  std::string currency;
  double base_price = 0;                       ///< of what is replaced
  double extra_price = 0;                      ///< below 0 where the second one is cheaper
  std::optional<PercentChange> improvement;    ///< of the suite, or of the only case; nothing before it is measured
  std::optional<double> percent_for_each_100;  ///< of the currency; nothing where nothing more is paid
  /// The extra price up to which the improvement is paid for, as much performance for money as before, with its
  /// interval; nothing where what is replaced costs nothing.
  std::optional<double> paid_for_up_to;
  std::optional<std::pair<double, double>> paid_for_interval;
};

/// Every two configurations that the study compares and that both have a price, each once; without an
/// improvement where the headline is not in percent, or speaks of several metrics.
/// Source  percent by extra price; base price times improvement. Held by vectors
[[nodiscard]] std::vector<Value> valuesOf(const Study& study, const ShapeFindings& findings);

/// "6000 MT/s for 40 EUR more than 4800 MT/s: 9.5 % for each 100 EUR. It pays up to 12 EUR more (10 to 15): not worth
/// it at this price", without its full stop.
[[nodiscard]] std::string valueText(const Value& value, const Study& study);

}  // namespace core
