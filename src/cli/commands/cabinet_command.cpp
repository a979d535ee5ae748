#include <QDateTime>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "core/estimate/wording.h"
#include "core/machine/fact_title.h"
#include "core/values/shown_text.h"
#include "core/values/utc_text.h"
#include "session/cabinet/cabinet.h"
#include "session/user/user_files.h"
#include "store/json/json_text.h"

namespace cli {
namespace {

using nlohmann::ordered_json;
using Entry = store::CabinetIndex::Entry;

ordered_json atJson(const Entry& one) {
  return one.at_ms == 0 ? ordered_json() : ordered_json(core::utcText(one.at_ms));
}

ordered_json entryJson(const Entry& one) {
  return {{"path", one.path},
          {"sentence", one.sentence},
          {"answer", one.answer},
          {"bench", one.bench},
          {"variable", one.variable},
          {"shape", one.shape},
          {"at", atJson(one)},
          {"state", one.state},
          {"doubts", {{"stop", one.stops}, {"caution", one.cautions}, {"note", one.notes}}},
          {"retired_by", one.retired_by},
          {"identity", one.identity},
          {"copy_of", one.copy_of.empty() ? ordered_json() : ordered_json(one.copy_of)}};
}

void printEntry(const Entry& one, std::ostream& out) {
  out << core::shownLine(one.sentence) << "\n  " << core::shownLine(one.path) << " · " << one.state;
  if (one.at_ms > 0)
    out << " · " << QDateTime::fromMSecsSinceEpoch(one.at_ms).toString(QStringLiteral("yyyy-MM-dd")).toStdString();
  for (const auto& [count, one_word, more] :
       {std::tuple{one.stops, "stop", "stops"}, {one.cautions, "caution", "cautions"}})
    if (count > 0) out << " · " << core::countText(count, one_word, more);
  out << '\n';
  if (!one.copy_of.empty()) out << "  a copy of " << core::shownLine(one.copy_of) << '\n';
  if (one.retired_by.empty()) return;
  out << "  since then on this bench: " << core::factTitle(one.retired_by.front());
  if (one.retired_by.size() > 1) out << fmt::format(" and {} more", one.retired_by.size() - 1);
  out << '\n';
}

}  // namespace

core::Status cabinetCommand(const CabinetOptions& options, std::ostream& out) {
  const auto files = session::UserFiles::ofThisUser();
  if (!files) return files.error();
  session::Cabinet cabinet(*files);
  if (!options.added.empty())
    if (auto added = cabinet.add(options.added); !added) return added;
  if (!options.removed.empty())
    if (auto removed = cabinet.remove(options.removed); !removed) return removed;
  if (auto fresh = cabinet.refresh(); !fresh) return fresh;
  const auto folders = cabinet.folders();
  if (!folders) return folders.error();
  const auto found = cabinet.find(options.words);
  if (!found) return found.error();
  if (options.as_json) {
    ordered_json studies = ordered_json::array();
    for (const Entry& one : *found) studies.push_back(entryJson(one));
    out << store::jsonText(ordered_json{{"studies", studies}, {"folders", *folders}, {"away", cabinet.away()}}, 1)
        << '\n';
    return core::Done{};
  }
  for (const Entry& one : *found) printEntry(one, out);
  for (const std::string& folder : cabinet.away()) out << "Not there now: " << core::shownLine(folder) << '\n';
  if (folders->empty())
    out << "The cabinet is empty. Name a folder with studies: iron-lever-cli cabinet --add FOLDER\n";
  else if (found->empty())
    out << (options.words.empty() ? "No study lies in its folders.\n" : "No study has all of these words.\n");
  return core::Done{};
}

}  // namespace cli
