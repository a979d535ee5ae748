#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/beside/table_aside.h"
#include "core/estimate/claims.h"
#include "core/estimate/effect.h"

namespace core {

/// A step between two rows or two columns, or how it differs from column to column.
struct TableStep : Claimed {
  std::string from;
  std::string to;
  std::string at_from = {};  ///< of an interaction: the column in which the step is compared
  std::string at_to = {};    ///< with this one
  PercentChange percent;     ///< improvement; of an interaction by how much the step is larger
};

/// What the rows of a full table do by themselves, what its columns do, and what they do to each other.
struct TableEffects {
  std::vector<TableStep> rows;          ///< each row over the first, over all columns alike
  std::vector<TableStep> columns;       ///< each column over the first, over all rows alike
  std::vector<TableStep> interactions;  ///< each row's step in a column, over its step in the first
  std::vector<std::string> turned;      ///< where the order of two rows turns round from one column to another
};

/// Nothing of a table with an empty or a refused cell, without an interval in one, or of one row or column only.
/// The cells are means of whole studies and independent of each other where no study fills two; of levels of one study
/// the spread over its visits counts in each.
/// Shapes  `confidence`, `notice_percent`: of the study in the first cell
/// Source  sums of independent means, df by Satterthwaite 1946; Holm 1979 over all of them
[[nodiscard]] std::optional<TableEffects> tableEffects(const TableAside& table, double confidence,
                                                       double notice_percent);

/// All of it in sentences: rows, columns, what is larger elsewhere, where an order turns round.
[[nodiscard]] std::vector<std::string> tableSentences(const TableEffects& effects);

}  // namespace core
