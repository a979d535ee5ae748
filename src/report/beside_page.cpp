#include "report/beside_page.h"

#include <fmt/format.h>

#include "core/beside/level_means.h"
#include "core/estimate/wording.h"
#include "core/findings/thresholds.h"
#include "core/values/utc_text.h"
#include "report/html.h"

namespace report {
namespace {

class BesidePage {
 public:
  BesidePage(const BesideSource& source, const Palette& palette) : source_(source), palette_(palette) {}

  std::string made(const std::string& picture) {
    page_.raw(pageHead("Studies beside each other", palette_));
    page_.raw("<h1>" + Html::sentence(source_.beside.claim) + "</h1>\n");
    for (const std::string& sentence : core::noticesAside(source_.beside, source_.studies))
      page_.paragraph(sentence + ".", "strong");
    differs();
    page_.heading(source_.beside.table ? source_.beside.table->title : "What each says");
    page_.raw(picture.empty() ? besideSvg(source_, palette_) : picture);
    if (source_.beside.table)
      table(*source_.beside.table);
    else
      rows();
    effects();
    for (const core::TableAside& one : source_.beside.further_tables) {
      page_.heading(one.title);
      table(one);
    }
    references();
    studies();
    whatItIsNot();
    page_.raw("</body></html>\n");
    return page_.text();
  }

 private:
  void differs() {
    page_.heading("What differs between the benches");
    if (source_.beside.differs.empty()) page_.paragraph("Nothing that could be read, or there is no capture of them.");
    for (const auto& [why, title] : {std::pair{core::WhyAside::Meant, "What is meant:"},
                                     {core::WhyAside::CameAlong, "What came along, and nobody meant:"},
                                     {core::WhyAside::Accepted, "What came along and is accepted:"},
                                     {core::WhyAside::NotTold, "What could not be told:"}}) {
      std::vector<std::string> items;
      for (const core::DiffersAside& one : source_.beside.differs) {
        if (one.why != why) continue;
        items.push_back(one.fact.title + ": " + core::valuesText(one.fact) +
                        (one.reason.empty() ? "" : ". Accepted: " + one.reason));
      }
      page_.sentences(title, items);
    }
  }
  void rows() {
    const bool is_levels = source_.order.kind == core::BesideKind::LevelsBetweenBenches;
    if (is_levels) page_.paragraph("Between studies: no change was made, two benches are compared.", "strong");
    page_.raw("<table>");
    std::vector<std::string> head{"case"};
    if (!is_levels)
      for (const core::StudyAside& one : source_.studies) head.push_back(one.name);
    head.push_back(fmt::format("{} over {}", source_.studies.back().name, source_.studies.front().name));
    head.emplace_back("verdict");
    page_.row(head, "th");
    for (const core::RowAside& row : source_.beside.rows) {
      std::vector<std::string> cells{core::rowTitle(row)};
      if (!is_levels)
        for (std::size_t i = 0; i < source_.studies.size(); ++i) cells.push_back(effectText(row, i));
      cells.push_back(row.difference ? core::changeText(row.difference->percent) : "");
      cells.push_back(core::verdictAside(row, source_.studies));
      page_.row(cells);
    }
    page_.raw("</table>\n");
  }
  [[nodiscard]] static std::string effectText(const core::RowAside& row, std::size_t study) {
    for (const core::EffectAside& one : row.effects)
      if (one.study == study && one.improvement) return core::changeText(*one.improvement);
    return "no result";
  }
  void table(const core::TableAside& table) {
    page_.raw("<table>");
    std::vector<std::string> head{""};
    head.insert(head.end(), table.columns.begin(), table.columns.end());
    page_.row(head, "th");
    for (const std::string& row : table.rows) {
      std::vector<std::string> cells{row};
      for (const std::string& column : table.columns) cells.push_back(cellText(table, row, column));
      page_.row(cells);
    }
    page_.raw("</table>\n");
    page_.paragraph(fmt::format("Percentages are over {}, {}.", table.cells.front().row, table.cells.front().column),
                    "soft");
    std::vector<std::string> refused;
    for (const core::CellAside& cell : table.cells)
      if (!cell.refused.empty())
        refused.push_back(
            fmt::format("{}, {} is not held against the first cell: {}.", cell.row, cell.column, cell.refused));
    page_.list(refused);
  }
  [[nodiscard]] static std::string cellText(const core::TableAside& table, const std::string& row,
                                            const std::string& column) {
    for (const core::CellAside& cell : table.cells) {
      if (cell.row != row || cell.column != column) continue;
      if (!cell.value) return "no result";
      std::string text = core::valueText(*cell.value, table.unit);
      if (!cell.refused.empty()) return text + ", refused";
      return cell.relative ? text + ", " + core::changeText(*cell.relative) : text;
    }
    return "not measured";
  }
  void effects() {
    if (!source_.beside.effects) return;
    page_.heading("Rows, columns, and both together");
    page_.list(core::tableSentences(*source_.beside.effects));
  }
  void references() {
    std::vector<std::string> items;
    for (const core::Reference& one : source_.order.references)
      items.push_back(core::referenceText(one, source_.beside.rows));
    if (!items.empty()) page_.heading("Numbers from elsewhere");
    page_.list(items);
    if (!source_.order.remarks.empty()) page_.heading("Remarks");
    page_.list(source_.order.remarks);
  }
  void studies() {
    page_.heading("What it rests on");
    std::vector<std::string> items;
    for (const core::StudyAside& one : source_.studies)
      items.push_back(fmt::format("{}: {}, {}{}. SHA-256 {}.", one.name, one.path, one.study->bench,
                                  one.lastPassAt() > 0 ? ", last pass on " + core::utcDayText(one.lastPassAt()) : "",
                                  one.sha256));
    items.push_back(fmt::format("Iron Lever {}, page made on {}.", source_.program_version, source_.made_on));
    page_.list(items);
  }
  void whatItIsNot() {
    page_.heading("What this is not");
    page_.list(
        {"The studies were not interleaved: whatever differs between their benches, known or not, is in every "
         "difference between them.",
         "Not a statement about other machines, other drivers or other versions of these workloads."});
  }

  const BesideSource& source_;
  const Palette& palette_;
  Html page_;
};

}  // namespace

std::string besidePage(const BesideSource& source, const Palette& palette, const std::string& picture) {
  return BesidePage(source, palette).made(picture);
}

}  // namespace report
