// What is to be known about a bench and stands in no capture.
#include <QDate>
#include <algorithm>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "cli/commands/papers.h"
#include "core/values/shown_text.h"
#include "store/json/json_text.h"

namespace cli {
namespace {

using core::Error;
using core::ErrorKind;
using Paper = store::BenchRegister::Paper;

core::Status checkPaper(const Paper& paper) {
  const auto& kinds = store::BenchRegister::kPaperKinds;
  if (std::find(kinds.begin(), kinds.end(), paper.kind) == kinds.end())
    return Error{ErrorKind::OutOfRange, "'" + paper.kind + "' is not a kind of paper", "--add-paper",
                 fmt::format("Use {}", fmt::join(kinds, ", "))};
  if (paper.text.find_first_not_of(" \t\n") == std::string::npos)
    return Error{ErrorKind::OutOfRange, "an empty paper says nothing", "--text", "Say it in a sentence"};
  if (!paper.until.empty() && !QDate::fromString(QString::fromStdString(paper.until), Qt::ISODate).isValid())
    return Error{ErrorKind::OutOfRange, "'" + paper.until + "' is not a date", "--until", "Write it as 2027-01-15"};
  return core::Done{};
}

bool isOverdue(const Paper& paper) {
  return !paper.until.empty() &&
         QDate::fromString(QString::fromStdString(paper.until), Qt::ISODate) < QDate::currentDate();
}

std::string kindText(const std::string& kind) {
  if (kind == "support_list") return "support list";
  if (kind == "lowest_firmware") return "lowest firmware";
  return kind;
}

}  // namespace

core::Status papersOfBench(const store::BenchRegister& benches, const std::string& bench, bool as_json,
                           std::ostream& out) {
  const auto papers = benches.papers(bench);
  if (!papers) return papers.error();
  nlohmann::ordered_json list = nlohmann::ordered_json::array();
  for (const Paper& one : *papers) {
    list.push_back({{"id", one.id},
                    {"kind", one.kind},
                    {"text", one.text},
                    {"until", one.until.empty() ? nlohmann::ordered_json() : nlohmann::ordered_json(one.until)},
                    {"overdue", isOverdue(one)}});
    if (as_json) continue;
    out << fmt::format("{}. {}: {}", one.id, kindText(one.kind), core::shownLine(one.text));
    if (!one.until.empty()) out << fmt::format(", until {}{}", one.until, isOverdue(one) ? ", overdue" : "");
    out << '\n';
  }
  if (as_json) out << store::jsonText(list, 1) << '\n';
  if (!as_json && papers->empty()) out << "This bench has no papers.\n";
  return core::Done{};
}

core::Status changePapers(store::BenchRegister& benches, const BenchesOptions& options) {
  if (options.removed_paper > 0) return benches.removePaper(options.bench, options.removed_paper);
  const Paper paper{0, options.added_kind, options.text, options.until};
  if (auto checked = checkPaper(paper); !checked) return checked;
  return benches.addPaper(options.bench, paper);
}

}  // namespace cli
