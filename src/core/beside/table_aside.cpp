#include "core/beside/table_aside.h"

#include <algorithm>
#include <cmath>
#include <set>

#include <fmt/format.h>

#include "core/beside/level_means.h"
#include "core/machine/device_path.h"
#include "core/machine/fact_title.h"
#include "core/machine/held_conditions.h"
#include "core/values/percent.h"

namespace core {
namespace {

/// A table in work.
class Table {
 public:
  Table(std::span<const StudyAside> studies, const BesideOrder& order) : studies_(studies), order_(order) {
    for (const StudyAside& one : studies) means_.emplace_back(one);
  }

  [[nodiscard]] Result<TableAside> made() {
    if (auto found = findCase(); !found) return found.error();
    for (std::size_t i = 0; i < studies_.size(); ++i) {
      if (auto filled = order_.columns == BesideOrder::kLevel ? fillLevels(i) : fillOne(i); !filled)
        return filled.error();
    }
    holdAgainstFirst();
    return table_;
  }

 private:
  Status findCase() {
    for (const Case& one : studies_.front().study->cases) {
      const std::string title = one.title();
      if (!order_.title.empty() && title != order_.title) continue;
      if (!std::all_of(studies_.begin(), studies_.end(),
                       [&](const StudyAside& study) { return placeOfCase(study, title).has_value(); }))
        continue;
      table_.title = title;
      table_.unit = one.metric.unit;
      for (const StudyAside& study : studies_)
        if (study.study->cases[*placeOfCase(study, title)].metric.unit != table_.unit)
          return Error{ErrorKind::OutOfRange, fmt::format("it measures {} in another unit", title), study.name,
                       "Choose another case"};
      return Done{};
    }
    return Error{ErrorKind::Missing, "the studies have no such case in common", "--case", "Name one that all have"};
  }
  static std::optional<std::size_t> placeOfCase(const StudyAside& one, const std::string& title) {
    for (std::size_t i = 0; i < one.study->cases.size(); ++i)
      if (one.study->cases[i].title() == title) return i;
    return std::nullopt;
  }

  [[nodiscard]] Result<std::string> nameAlong(const StudyAside& one, const std::string& axis) const {
    if (axis == BesideOrder::kBench) return one.study->bench;
    const Capture* capture = captureOf(one);
    const std::string text = capture ? capture->text(axis) : std::string();
    if (text.empty())
      return Error{ErrorKind::Missing, fmt::format("its captures do not say {}", axis), one.name,
                   "Name a fact as `iron-lever-cli capture` prints it, or bench"};
    return text;
  }

  Status fillOne(std::size_t study) {
    const StudyAside& one = studies_[study];
    const auto column = nameAlong(one, order_.columns);
    if (!column) return column.error();
    const auto at = order_.level.empty() ? std::optional(configurationAt(one.study->configurationCount() - 1))
                                         : findConfiguration(*one.study, order_.level);
    if (!at)
      return Error{ErrorKind::Missing, fmt::format("it has no level '{}'", order_.level), one.name,
                   "Name a level that all of the studies have"};
    return add(study, *column, *at);
  }
  Status fillLevels(std::size_t study) {
    for (const ConfigurationId at : configurationsOf(*studies_[study].study))
      if (auto added = add(study, studies_[study].study->nameOf(at), at); !added) return added;
    return Done{};
  }

  Status add(std::size_t study, const std::string& column, ConfigurationId at) {
    const StudyAside& one = studies_[study];
    const auto row = nameAlong(one, order_.rows);
    if (!row) return row.error();
    for (const CellAside& other : table_.cells)
      if (other.row == *row && other.column == column)
        return Error{
            ErrorKind::OutOfRange,
            fmt::format("{} and {} fall into one cell: {}, {}", studies_[other.study].name, one.name, *row, column),
            one.name, "Choose rows and columns in which they differ"};
    CellAside& cell = table_.cells.emplace_back();
    cell.study = study;
    cell.row = *row;
    cell.column = column;
    note(table_.rows, cell.row);
    note(table_.columns, cell.column);
    const std::size_t case_index = *placeOfCase(one, table_.title);
    cell.mean = means_[study].at(case_index, at);
    const auto& mean = cell.mean;
    if (!mean) return Done{};
    const double sign = one.study->cases[case_index].metric.direction == Direction::LowerIsBetter ? -1 : 1;
    cell.value = std::exp(sign * mean->difference);
    if (const auto& inference = mean->inference) {
      cell.lo = std::exp(sign > 0 ? inference->lo : -inference->hi);
      cell.hi = std::exp(sign > 0 ? inference->hi : -inference->lo);
    }
    return Done{};
  }
  static void note(std::vector<std::string>& names, const std::string& name) {
    if (std::find(names.begin(), names.end(), name) == names.end()) names.push_back(name);
  }

  void holdAgainstFirst() {
    const CellAside& first = table_.cells.front();
    for (std::size_t i = 1; i < table_.cells.size(); ++i) {
      CellAside& cell = table_.cells[i];
      refuse(cell);
      if (!cell.refused.empty() || !first.mean || !cell.mean) continue;
      cell.relative = PercentChange{percentOfLn(cell.mean->difference - first.mean->difference), {}};
      const auto then = numbersOf(first.mean);
      const auto own = numbersOf(cell.mean);
      if (!then || !own) continue;
      if (const auto difference = studyDifference(*then, *own, studies_.front().study->confidence))
        cell.relative = percentChangeOf(*difference);
    }
  }

  // What is kept equal while a whole is exchanged, but for what rows and columns are about.
  void refuse(CellAside& cell) const {
    const Capture* first = captureOf(studies_.front());
    const Capture* own = captureOf(studies_[cell.study]);
    if (!first || !own || first == own) return;
    for (const HeldCondition& condition : heldConditions()) {
      const std::string id(condition.id);
      if (order_.accepted.contains(id) || isAnAxis(condition, *first)) continue;
      const Fact then = heldFact(condition, *first, likelyGraphicsDevice(*first));
      const Fact now = heldFact(condition, *own, likelyGraphicsDevice(*own));
      if (!then.isRead() || !now.isRead() || then.value == now.value) continue;
      cell.refused_for = id;
      cell.refused = fmt::format("{} is {}, and {} in the first cell", factTitle(id), now.value, then.value);
      return;
    }
  }
  [[nodiscard]] bool isAnAxis(const HeldCondition& condition, const Capture& capture) const {
    const std::string device = likelyGraphicsDevice(capture);
    const auto patterns = placedFacts(condition, device, devicePath(capture, device));
    return std::any_of(patterns.begin(), patterns.end(), [&](const std::string& pattern) {
      return matchesPattern(pattern, order_.rows) || matchesPattern(pattern, order_.columns);
    });
  }

  std::span<const StudyAside> studies_;
  const BesideOrder& order_;
  TableAside table_;
  std::vector<LevelMeans> means_;  ///< of the studies
};

}  // namespace

Result<TableAside> tableOf(std::span<const StudyAside> studies, const BesideOrder& order) {
  return Table(studies, order).made();
}

}  // namespace core
