#include <QDateTime>
#include <algorithm>
#include <deque>
#include <filesystem>

#include <fmt/format.h>

#include "cli/commands.h"
#include "cli/commands/beside_document.h"
#include "cli/json/beside_json.h"
#include "core/estimate/wording.h"
#include "core/findings/result_row.h"
#include "core/values/shown_text.h"
#include "session/study/read_study.h"
#include "session/user/output_file.h"
#include "store/files/regular_file.h"
#include "store/json/json_text.h"

namespace cli {
namespace {

using core::Error;
using core::ErrorKind;
using nlohmann::ordered_json;

constexpr const char* kEnding = ".beside.json";
constexpr const char* kSameQuestion = "same_question";
constexpr const char* kLevels = "levels_between_benches";
constexpr const char* kTable = "table";

/// The studies that are laid beside each other, read and judged.
class Studies {
 public:
  /// `folder`: from which relative paths are seen.
  core::Status read(const BesideDocument& document, const std::filesystem::path& folder) {
    for (const std::string& path : document.studies) {
      auto study = session::readStudy((folder / path).string());
      if (!study) return study.error();
      Read& one = read_.emplace_back();
      one.study = *std::move(study);
      one.study.path = path;
      one.record = store::recordOf(one.study.recorded);
      one.judgement = core::judgementOf(one.study.study, one.record);
      aside_.push_back({path, &one.study.study, &one.record, &one.judgement});
      const auto known = document.digests.find(path);
      if (known != document.digests.end() && !known->second.empty() && known->second != one.study.sha256)
        changed_.push_back(path);
    }
    return core::checkAside(aside_);
  }
  [[nodiscard]] std::span<const core::StudyAside> aside() const { return aside_; }
  /// Those that are not what they were when the document was written.
  [[nodiscard]] const std::vector<std::string>& changed() const { return changed_; }
  [[nodiscard]] ordered_json listed() const {
    ordered_json all = ordered_json::array();
    for (const Read& one : read_) {
      std::int64_t at_ms = 0;
      for (const core::Pass& pass : one.study.recorded.passes) at_ms = std::max(at_ms, pass.started_ms);
      all.push_back(
          {{"path", one.study.path},
           {"sha256", one.study.sha256},
           {"bench", one.study.study.bench},
           {"at", at_ms > 0
                      ? ordered_json(QDateTime::fromMSecsSinceEpoch(at_ms, Qt::UTC).toString(Qt::ISODate).toStdString())
                      : ordered_json()}});
    }
    return all;
  }

 private:
  struct Read {
    session::ReadStudy study;
    core::Record record;
    core::Judgement judgement;
  };
  std::deque<Read> read_;  ///< in their places: records look into them
  std::vector<core::StudyAside> aside_;
  std::vector<std::string> changed_;
};

// A number from elsewhere is held against the last study's first row, where both are percentages, and judged by nobody.
std::optional<bool> isInside(const Reference& reference, const std::vector<core::RowAside>& rows) {
  if (reference.unit != "%" || rows.empty() || rows.front().effects.empty()) return std::nullopt;
  const auto& own = rows.front().effects.back().improvement;
  if (!own || !own->interval) return std::nullopt;
  return reference.value >= own->interval->lo && reference.value <= own->interval->hi;
}

ordered_json referencesJson(const std::vector<Reference>& references, const std::vector<core::RowAside>& rows) {
  ordered_json all = ordered_json::array();
  for (const Reference& one : references) {
    const auto inside = isInside(one, rows);
    all.push_back({{"name", one.name},
                   {"source", one.source},
                   {"value", one.value},
                   {"unit", one.unit},
                   {"inside", inside ? ordered_json(*inside) : ordered_json()}});
  }
  return all;
}

/// All that is said of the studies.
struct Answer {
  std::vector<core::FactAside> differs;
  std::vector<core::RowAside> rows;
  std::optional<core::TableAside> table;
};

core::Result<Answer> answerOf(const BesideDocument& document, const Studies& studies) {
  Answer answer;
  answer.differs = core::differencesBetween(studies.aside());
  if (document.kind == kTable) {
    auto table = core::tableOf(studies.aside(),
                               {document.rows, document.columns, document.level, document.title, document.accepted});
    if (!table) return table.error();
    answer.table = *std::move(table);
  } else if (document.kind == kLevels) {
    auto rows = core::levelsBetween(studies.aside(), document.level);
    if (!rows) return rows.error();
    answer.rows = *std::move(rows);
  } else {
    answer.rows = core::sameQuestion(studies.aside(), document.matched);
  }
  return answer;
}

void printDiffers(const Answer& answer, const Studies& studies, std::ostream& out) {
  constexpr std::size_t kMost = 20;
  if (answer.differs.empty()) {
    out << "Nothing that could be read differs between the benches, or there is no capture of them.\n";
    return;
  }
  out << "Between the benches these differ:\n";
  for (std::size_t i = 0; i < std::min(answer.differs.size(), kMost); ++i) {
    const core::FactAside& one = answer.differs[i];
    out << "  " << one.title << ":";
    for (std::size_t study = 0; study < studies.aside().size(); ++study)
      out << (study == 0 ? " " : ", ")
          << (one.values[study].empty() ? std::string("not read") : core::shownLine(one.values[study]));
    out << '\n';
  }
  if (answer.differs.size() > kMost)
    out << fmt::format("  and {} more; --json lists them\n", answer.differs.size() - kMost);
}

void printRows(const Answer& answer, const Studies& studies, std::ostream& out) {
  const core::NoticeThreshold threshold =
      core::noticeThreshold(studies.aside().front().study->notice_threshold_percent);
  for (const core::RowAside& row : answer.rows) {
    out << row.title << '\n';
    for (const core::EffectAside& effect : row.effects)
      if (effect.improvement)
        out << fmt::format("  {}: improvement {}\n", studies.aside()[effect.study].name,
                           core::changeText(*effect.improvement));
    if (row.difference)
      out << fmt::format("  {} over {}: improvement {}: {}\n", studies.aside().back().name,
                         studies.aside().front().name, core::changeText(row.difference->percent),
                         core::verdictText(row.difference->verdict, threshold, row.difference->marks));
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

void printForReading(const BesideDocument& document, const Answer& answer, const Studies& studies, std::ostream& out) {
  printDiffers(answer, studies, out);
  for (const core::StudyAside& one : studies.aside())
    if (one.judgement->claim.is_stopped)
      out << fmt::format("{} has a stop that nobody has accepted: {}.\n", one.name,
                         one.judgement->doubts.front().sentence);
  for (const std::string& path : studies.changed())
    out << fmt::format("{} is not what it was when this was written.\n", path);
  if (document.kind == kLevels) out << "Between studies: no change was made, two benches are compared.\n";
  if (answer.table)
    printTable(*answer.table, out);
  else
    printRows(answer, studies, out);
  for (const Reference& one : document.references) {
    const auto inside = isInside(one, answer.rows);
    out << fmt::format("{}, {}: {:g} {}{}. It was not measured here.\n", core::shownLine(one.name),
                       core::shownLine(one.source), one.value, one.unit,
                       !inside   ? ""
                       : *inside ? ", inside our interval"
                                 : ", not inside our interval");
  }
}

core::Result<BesideDocument> documentOf(const BesideOptions& options, std::filesystem::path& folder) {
  BesideDocument document;
  if (options.studies.size() == 1 && options.studies.front().ends_with(kEnding)) {
    constexpr std::uintmax_t kLargest = 16 << 20;
    const auto text = store::contentsOf(options.studies.front(), kLargest);
    if (!text) return text.error();
    auto read = besideDocumentFrom(*text, options.studies.front());
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
    auto reference = referenceFrom(one);
    if (!reference) return reference.error();
    document.references.push_back(*std::move(reference));
  }
  document.remarks.insert(document.remarks.end(), options.remarks.begin(), options.remarks.end());
  if (!document.rows.empty() || !document.columns.empty()) {
    document.kind = kTable;
    if (document.rows.empty()) document.rows = "bench";
    if (document.columns.empty()) document.columns = "level";
  } else {
    document.kind = document.level.empty() ? kSameQuestion : kLevels;
  }
  return document;
}

}  // namespace

core::Status besideCommand(const BesideOptions& options, std::ostream& out) {
  std::filesystem::path folder;
  const auto document = documentOf(options, folder);
  if (!document) return document.error();
  if (!options.out_path.empty() && !options.out_path.ends_with(kEnding))
    return Error{ErrorKind::OutOfRange, "what is laid beside each other is written as " + std::string(kEnding),
                 "--out " + options.out_path, std::string("Name it NAME") + kEnding};
  Studies studies;
  if (auto read = studies.read(*document, folder); !read) return read;
  const auto answer = answerOf(*document, studies);
  if (!answer) return answer.error();
  ordered_json json{{"kind", document->kind},
                    {"studies", studies.listed()},
                    {"differs_between_benches", factsAsideJson(answer->differs)},
                    {"rows", rowsAsideJson(answer->rows, studies.aside())},
                    {"table", answer->table ? tableAsideJson(*answer->table) : ordered_json()},
                    {"references", referencesJson(document->references, answer->rows)},
                    {"changed_since", studies.changed()}};
  if (options.as_json)
    out << store::jsonText(json, 1) << '\n';
  else
    printForReading(*document, *answer, studies, out);
  if (options.out_path.empty()) return core::Done{};
  // Where it lies decides how its studies are found again.
  const std::filesystem::path home = std::filesystem::absolute(options.out_path).parent_path();
  for (ordered_json& one : json["studies"]) {
    const std::filesystem::path path = std::filesystem::absolute(folder / one["path"].get<std::string>());
    const std::filesystem::path seen = path.lexically_relative(home);
    one["path"] = (seen.empty() ? path : seen).string();
  }
  addOrder(json, *document);
  return session::writeOutput(options.out_path, store::jsonText(json, 1) + '\n');
}

}  // namespace cli
