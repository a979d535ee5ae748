#include "core/beside/table_effects.h"

#include <algorithm>
#include <map>

#include <fmt/format.h>

#include "core/beside/level_means.h"
#include "core/estimate/notice_threshold.h"
#include "core/estimate/wording.h"
#include "core/findings/judged_claim.h"
#include "core/findings/thresholds.h"

namespace core {
namespace {

/// A table whose every place is filled.
class FullTable {
 public:
  [[nodiscard]] static std::optional<FullTable> of(const TableAside& table) {
    FullTable full(table);
    if (table.rows.size() < 2 || table.columns.size() < 2) return std::nullopt;
    for (const CellAside& cell : table.cells) {
      const auto numbers = numbersOf(cell.mean);
      if (!numbers || !cell.refused.empty()) return std::nullopt;
      full.means_[{cell.row, cell.column}] = *numbers;
    }
    if (full.means_.size() != table.rows.size() * table.columns.size()) return std::nullopt;
    return full;
  }
  [[nodiscard]] const StudyEffect& at(const std::string& row, const std::string& column) const {
    return means_.at({row, column});
  }
  [[nodiscard]] const TableAside& table() const { return *table_; }

 private:
  explicit FullTable(const TableAside& table) : table_(&table) {}
  const TableAside* table_;
  std::map<std::pair<std::string, std::string>, StudyEffect> means_;
};

/// Works out the steps, and judges each by itself.
class Steps {
 public:
  Steps(const FullTable& full, double confidence, double notice_percent)
      : full_(full), confidence_(confidence), threshold_(noticeThreshold(notice_percent)) {}

  [[nodiscard]] std::vector<TableStep> ofRows() const {
    return along(full_.table().rows, full_.table().columns,
                 [this](const std::string& row, const std::string& column) { return full_.at(row, column); });
  }
  [[nodiscard]] std::vector<TableStep> ofColumns() const {
    return along(full_.table().columns, full_.table().rows,
                 [this](const std::string& column, const std::string& row) { return full_.at(row, column); });
  }
  [[nodiscard]] std::vector<TableStep> interactions() const {
    std::vector<TableStep> steps;
    const auto& rows = full_.table().rows;
    const auto& columns = full_.table().columns;
    for (std::size_t row = 1; row < rows.size(); ++row)
      for (std::size_t column = 1; column < columns.size(); ++column) {
        const std::vector<WeightedEstimate> parts{{1, full_.at(rows[row], columns[column])},
                                                  {-1, full_.at(rows[0], columns[column])},
                                                  {-1, full_.at(rows[row], columns[0])},
                                                  {1, full_.at(rows[0], columns[0])}};
        add(steps, {{}, rows[0], rows[row], columns[0], columns[column], {}}, parts);
      }
    return steps;
  }

 private:
  // Each place on an axis over the first, the mean over all places of the other.
  template <class At>
  [[nodiscard]] std::vector<TableStep> along(const std::vector<std::string>& axis,
                                             const std::vector<std::string>& others, const At& at) const {
    std::vector<TableStep> steps;
    const double weight = 1.0 / static_cast<double>(others.size());
    for (std::size_t i = 1; i < axis.size(); ++i) {
      std::vector<WeightedEstimate> parts;
      for (const std::string& other : others) {
        parts.push_back({weight, at(axis[i], other)});
        parts.push_back({-weight, at(axis[0], other)});
      }
      add(steps, {{}, axis[0], axis[i], {}, {}, {}}, parts);
    }
    return steps;
  }
  void add(std::vector<TableStep>& steps, TableStep step, const std::vector<WeightedEstimate>& parts) const {
    const auto contrast = independentSum(parts, confidence_);
    if (!contrast) return;
    static_cast<Claimed&>(step) = claimedOf(*contrast, threshold_, {});
    step.percent = percentChangeOf(*contrast);
    steps.push_back(std::move(step));
  }

  const FullTable& full_;
  double confidence_;
  NoticeThreshold threshold_;
};

// Only what stands outside both intervals is an order: else the cells are not told apart.
int orderOf(const FullTable& full, const std::string& one, const std::string& other, const std::string& column,
            double confidence) {
  const auto contrast = studyDifference(full.at(one, column), full.at(other, column), confidence);
  if (!contrast || !contrast->inference) return 0;
  return contrast->inference->lo > 0 ? 1 : contrast->inference->hi < 0 ? -1 : 0;
}

// Every two rows are compared in every column: each at a confidence at which all of them hold together (Bonferroni).
std::vector<std::string> turnedRanks(const FullTable& full, double all_together) {
  std::vector<std::string> turned;
  const auto& rows = full.table().rows;
  const auto comparisons = rows.size() * (rows.size() - 1) / 2 * full.table().columns.size();
  const double confidence = 1 - (1 - all_together) / static_cast<double>(comparisons);
  for (std::size_t i = 0; i < rows.size(); ++i)
    for (std::size_t j = i + 1; j < rows.size(); ++j) {
      std::map<int, std::string> first_with;  // a column for each order that there is
      for (const std::string& column : full.table().columns)
        first_with.emplace(orderOf(full, rows[i], rows[j], column, confidence), column);
      if (!first_with.contains(1) || !first_with.contains(-1)) continue;
      turned.push_back(fmt::format("{} is ahead of {} at {}, and behind it at {}", rows[j], rows[i], first_with.at(1),
                                   first_with.at(-1)));
    }
  return turned;
}

}  // namespace

std::optional<TableEffects> tableEffects(const TableAside& table, double confidence, double notice_percent) {
  const auto full = FullTable::of(table);
  if (!full) return std::nullopt;
  const Steps steps(*full, confidence, notice_percent);
  TableEffects effects{steps.ofRows(), steps.ofColumns(), steps.interactions(), turnedRanks(*full, confidence)};
  std::vector<Claimed*> family;
  for (auto* group : {&effects.rows, &effects.columns, &effects.interactions})
    for (TableStep& step : *group) family.push_back(&step);
  adjustFamily(family, confidence, "steps of the table");
  return effects;
}

std::vector<std::string> tableSentences(const TableEffects& effects) {
  std::vector<std::string> sentences;
  const auto add = [&](const TableStep& step, const std::string& where) {
    sentences.push_back(fmt::format("{} over {}{}: {}: {}.", step.to, step.from, where, changeText(step.percent),
                                    verdictText(step.verdict, step.marks)));
  };
  for (const TableStep& step : effects.rows) add(step, ", all columns alike");
  for (const TableStep& step : effects.columns) add(step, ", all rows alike");
  for (const TableStep& step : effects.interactions)
    add(step, fmt::format(" at {}, beyond what it is at {}", step.at_to, step.at_from));
  for (const std::string& turned : effects.turned) sentences.push_back(turned + ".");
  return sentences;
}

}  // namespace core
