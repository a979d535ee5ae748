#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/beside/beside_order.h"
#include "core/beside/study_aside.h"
#include "core/estimate/effect.h"

namespace core {

/// One study at one level.
struct CellAside {
  std::size_t study = 0;
  std::string row;
  std::string column;
  std::optional<double> value;  ///< geometric mean of the visits, in the metric's unit
  std::optional<double> lo;
  std::optional<double> hi;
  std::optional<Contrast> mean;           ///< the same, ln on the improvement scale
  std::optional<PercentChange> relative;  ///< improvement over the first cell; nothing of that cell itself
  std::string refused;                    ///< why it is not held against the first cell; empty where it is
  std::string refused_for;                ///< the held condition behind that, by its id
};

struct TableAside {
  std::string title;
  std::string unit;
  std::vector<std::string> rows;
  std::vector<std::string> columns;
  std::vector<CellAside> cells;  ///< in the order of the studies; the first is the one that the others are held against
};

/// Several studies as one table: a value for each, and its percentage over the first. A cell whose held conditions
/// differ from the first one's is refused by name, unless a person accepted that: what rows and columns are about may
/// differ.
/// Errors  Missing for a case, a level or a fact that a study does not have; OutOfRange where two studies fall into one
/// cell
/// Source  levelMean, studyDifference
[[nodiscard]] Result<TableAside> tableOf(std::span<const StudyAside> studies, const BesideOrder& order);

}  // namespace core
