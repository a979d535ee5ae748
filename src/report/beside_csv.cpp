// Studies beside each other as a table for other programs.
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/beside/level_means.h"
#include "core/values/utc_text.h"
#include "report/beside_page.h"
#include "report/csv.h"

namespace report {
namespace {

using Cells = std::vector<std::string>;

void addChange(Cells& cells, const std::optional<core::PercentChange>& change) {
  cells.push_back(change ? Csv::number(change->value) : "");
  cells.push_back(change && change->interval ? Csv::number(change->interval->lo) : "");
  cells.push_back(change && change->interval ? Csv::number(change->interval->hi) : "");
}

void addTable(Csv& csv, const core::TableAside& table, const BesideSource& source) {
  for (const core::CellAside& cell : table.cells) {
    const core::StudyAside& study = source.studies[cell.study];
    Cells cells{table.title, cell.row, cell.column, study.path, study.study->bench};
    cells.insert(cells.end(), {Csv::number(cell.value), table.unit, Csv::number(cell.lo), Csv::number(cell.hi)});
    addChange(cells, cell.relative);
    cells.push_back(cell.refused);
    csv.row(cells);
  }
}

std::string tableCsv(const BesideSource& source) {
  Csv csv({"case", "row", "column", "study", "bench", "value", "unit", "lo", "hi", "relative_percent",
           "relative_lo_percent", "relative_hi_percent", "refused"});
  addTable(csv, *source.beside.table, source);
  for (const core::TableAside& one : source.beside.further_tables) addTable(csv, one, source);
  return csv.text();
}

}  // namespace

std::string besideCsv(const BesideSource& source) {
  if (source.beside.table) return tableCsv(source);
  Csv csv({"case", "study", "bench", "at", "improvement_percent", "improvement_lo_percent", "improvement_hi_percent",
           "d", "se", "df", "difference_percent", "difference_lo_percent", "difference_hi_percent", "p", "p_holm",
           "verdict", "marks", "why_no_difference"});
  for (const core::RowAside& row : source.beside.rows)
    for (const core::EffectAside& effect : row.effects) {
      const core::StudyAside& study = source.studies[effect.study];
      Cells cells{row.title, study.path, study.study->bench,
                  study.lastPassAt() > 0 ? core::utcText(study.lastPassAt()) : ""};
      addChange(cells, effect.improvement);
      const auto numbers = core::numbersOf(effect.contrast);
      cells.push_back(effect.contrast ? Csv::number(effect.contrast->difference) : "");
      cells.push_back(numbers ? Csv::number(numbers->se) : "");
      cells.push_back(numbers ? Csv::number(numbers->df) : "");
      // What the last says over the first stands in the row of the last.
      const bool is_last = effect.study + 1 == source.studies.size();
      const auto* difference = is_last && row.difference ? &*row.difference : nullptr;
      addChange(cells, difference ? std::optional(difference->percent) : std::nullopt);
      const bool has_p = difference && difference->contrast.inference;
      cells.push_back(has_p ? Csv::number(difference->contrast.inference->p) : "");
      cells.push_back(difference && difference->p_holm ? Csv::number(difference->p_holm->zero) : "");
      cells.emplace_back(difference ? core::verdictName(difference->verdict) : "");
      cells.push_back(difference ? fmt::format("{}", fmt::join(difference->marks.names(), "; ")) : "");
      cells.push_back(is_last && !row.difference ? row.why_no_difference : "");
      csv.row(cells);
    }
  return csv.text();
}

}  // namespace report
