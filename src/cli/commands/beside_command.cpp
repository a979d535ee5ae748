#include <algorithm>
#include <filesystem>

#include <fmt/format.h>

#include "cli/commands.h"
#include "core/beside/beside.h"
#include "core/estimate/wording.h"
#include "core/values/shown_text.h"
#include "report/json/beside_json.h"
#include "session/cabinet/studies_read.h"
#include "session/pages/written_beside.h"
#include "store/cabinet/beside_document.h"
#include "store/json/json_text.h"

namespace cli {
namespace {

using core::Error;
using core::ErrorKind;
using nlohmann::ordered_json;

using Asides = std::span<const core::StudyAside>;

void printDiffers(const core::Beside& beside, std::ostream& out) {
  constexpr std::size_t kMost = 20;
  if (beside.differs.empty()) {
    out << "Nothing that could be read differs between the benches, or there is no capture of them.\n";
    return;
  }
  for (const auto& [why, title] : {std::pair{core::WhyAside::Meant, "Meant to differ between the benches:"},
                                   {core::WhyAside::CameAlong, "Came along, and nobody meant it:"},
                                   {core::WhyAside::Accepted, "Accepted:"},
                                   {core::WhyAside::NotTold, "Could not be told:"}}) {
    std::vector<const core::DiffersAside*> named;
    for (const core::DiffersAside& one : beside.differs)
      if (one.why == why) named.push_back(&one);
    if (named.empty()) continue;
    out << title << '\n';
    for (std::size_t i = 0; i < std::min(named.size(), kMost); ++i) {
      out << "  " << named[i]->fact.title << ": " << core::valuesText(named[i]->fact);
      out << (named[i]->reason.empty() ? "" : "; accepted: " + core::shownLine(named[i]->reason)) << '\n';
    }
    if (named.size() > kMost) out << fmt::format("  and {} more; --json lists them\n", named.size() - kMost);
  }
}

void printRows(const core::Beside& beside, Asides studies, std::ostream& out) {
  for (const core::RowAside& row : beside.rows) {
    out << row.title << '\n';
    for (const core::EffectAside& effect : row.effects)
      if (effect.improvement)
        out << fmt::format("  {}: improvement {}\n", studies[effect.study].name, core::changeText(*effect.improvement));
    if (row.difference)
      out << fmt::format("  {} over {}: improvement {}: {}\n", studies.back().name, studies.front().name,
                         core::changeText(row.difference->percent), core::verdictAside(row, studies));
    else
      out << "  no difference is told: " << row.why_no_difference << '\n';
  }
}

void printTable(const core::TableAside& table, std::ostream& out) {
  out << table.title << '\n';
  for (const core::CellAside& cell : table.cells) {
    out << fmt::format("  {}, {}: {}", cell.row, cell.column,
                       cell.value ? core::valueText(*cell.value, table.unit) : std::string("no result"));
    if (cell.lo && cell.hi)
      out << fmt::format(" ({} to {})", core::numberText(*cell.lo, table.unit), core::numberText(*cell.hi, table.unit));
    if (!cell.refused.empty())
      out << "; not held against the first cell: " << cell.refused;
    else if (cell.relative)
      out << "; improvement " << core::changeText(*cell.relative) << " over the first cell";
    out << '\n';
  }
}

void printForReading(const core::BesideOrder& order, const core::Beside& beside, Asides studies, std::ostream& out) {
  out << beside.claim << '\n';
  printDiffers(beside, out);
  for (const std::string& sentence : core::noticesAside(beside, studies)) out << sentence << ".\n";
  if (order.kind == core::BesideKind::LevelsBetweenBenches)
    out << "Between studies: no change was made, two benches are compared.\n";
  if (beside.table)
    printTable(*beside.table, out);
  else
    printRows(beside, studies, out);
  if (beside.effects)
    for (const std::string& sentence : core::tableSentences(*beside.effects)) out << "  " << sentence << '\n';
  for (const core::Reference& one : order.references) out << core::referenceText(one, beside.rows) << '\n';
}

core::Result<core::BesideOrder> orderOf(const BesideOptions& options, std::filesystem::path& folder) {
  core::BesideOrder document;
  if (options.studies.size() == 1 && options.studies.front().ends_with(store::kBesideEnding)) {
    auto read = session::readBesideOrder(options.studies.front());
    if (!read) return read.error();
    document = *std::move(read);
    folder = std::filesystem::path(options.studies.front()).parent_path();
  } else {
    document.studies = options.studies;
  }
  if (!options.level.empty()) document.level = options.level;
  if (!options.rows.empty()) document.rows = options.rows;
  if (!options.columns.empty()) document.columns = options.columns;
  if (!options.case_title.empty()) document.title = options.case_title;
  for (const auto& [list, into, name] : {std::tuple{&options.matched, &document.matched, "--match"},
                                         {&options.accepted, &document.accepted, "--accept"}})
    for (const std::string& one : *list) {
      const std::size_t equals = one.find('=');
      if (equals == std::string::npos || equals == 0 || equals + 1 == one.size())
        return Error{ErrorKind::Malformed, "'" + one + "' has no = between two texts", name, "Write it as ONE=OTHER"};
      (*into)[one.substr(0, equals)] = one.substr(equals + 1);
    }
  for (const std::string& one : options.references) {
    auto reference = store::referenceFrom(one);
    if (!reference) return reference.error();
    document.references.push_back(*std::move(reference));
  }
  document.meant.insert(document.meant.end(), options.meant.begin(), options.meant.end());
  document.remarks.insert(document.remarks.end(), options.remarks.begin(), options.remarks.end());
  if (!document.rows.empty() || !document.columns.empty()) {
    document.kind = core::BesideKind::Table;
    if (document.rows.empty()) document.rows = core::BesideOrder::kBench;
    if (document.columns.empty()) document.columns = core::BesideOrder::kLevel;
  } else {
    document.kind = document.level.empty() ? core::BesideKind::SameQuestion : core::BesideKind::LevelsBetweenBenches;
  }
  return document;
}

}  // namespace

core::Status besideCommand(const BesideOptions& options, std::ostream& out) {
  std::filesystem::path folder;
  const auto order = orderOf(options, folder);
  if (!order) return order.error();
  if (!options.out_path.empty())
    if (auto fine = session::checkBesidePath(options.out_path); !fine) return fine;
  const auto studies = session::StudiesRead::read(*order, folder);
  if (!studies) return studies.error();
  const auto beside = core::layBeside(studies->aside(), *order);
  if (!beside) return beside.error();
  if (options.as_json)
    out << store::jsonText(report::besideJson(*beside, studies->aside(), *order), 1) << '\n';
  else
    printForReading(*order, *beside, studies->aside(), out);
  if (options.out_path.empty()) return core::Done{};
  return session::writeBeside(options.out_path, *beside, studies->aside(), *order, folder);
}

}  // namespace cli
