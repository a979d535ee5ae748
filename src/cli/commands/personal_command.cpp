#include <QDate>
#include <QDateTime>
#include <algorithm>
#include <map>
#include <optional>
#include <set>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/commands/with_session.h"
#include "core/estimate/wording.h"
#include "core/values/personal_text.h"
#include "core/values/shown_text.h"
#include "report/json/or_null.h"
#include "report/report.h"
#include "session/bundle/nameless_study.h"
#include "store/json/json_text.h"
#include "store/study/study_texts.h"

namespace cli {
namespace {

using json = nlohmann::ordered_json;
using Text = store::StudyFile::Text;

/// One thing that is said, and everywhere that it stands.
struct Item {
  std::string kind;
  std::string text;
  std::vector<std::string> places = {};
  std::optional<bool> in_report = {};  ///< none where there is no report yet
};

// "the design", "event 4, text": the study's tables as its format names them.
std::string placeOf(const Text& text) {
  if (text.table == "study") return "the design";
  return fmt::format("{} {}, {}", text.table, text.row, text.column);
}

// Texts that have no form to be searched for, only a place: what people wrote, and what programs said.
const char* kindByPlace(const Text& text) {
  if (text.table == "event" && text.column == "text") return "written";
  const bool is_said = text.column == "output" || text.column == "error_output" || text.column == "failure";
  if ((text.table == "pass" && is_said) || text.table == "companion") return "printed";
  if (text.table == "pass" && text.column == "settings") return "settings";
  if (text.table == "attachment" || (text.table == "visit_picture" && text.column == "name")) return "picture";
  return nullptr;
}

class Inventory {
 public:
  Inventory(session::Session& session, core::KnownNames known) : session_(session), known_(std::move(known)) {
    for (const core::Visit& visit : session.recorded().visits) boots_.insert(visit.boot_id);
  }

  core::Status take() {
    add("bench", session_.study().bench, "the design");
    times();
    return store::forEachText(session_.open().file(), [this](const Text& text) {
      for (const core::PersonalText& one : core::personalTexts(text.text, known_))
        add(boots_.contains(one.text) ? "boot" : core::personalKindName(one.kind), one.text, placeOf(text));
      // A flip's text is the boot, a null study's what was measured.
      if (const char* kind = kindByPlace(text);
          kind && !text.text.empty() && !boots_.contains(text.text) && text.text[0] != '{')
        add(kind, text.text, placeOf(text));
    });
  }
  void lookInto(const std::string& page) {
    std::set<std::string> said;
    for (const core::PersonalText& one : core::personalTexts(page, known_)) said.insert(one.text);
    for (Item& item : items_)
      item.in_report = said.contains(item.text) || (!isSearchedFor(item) && isIn(page, item.text));
  }
  [[nodiscard]] const std::vector<Item>& items() const { return items_; }

 private:
  // A cause is on record behind its grade; the report says the two in words of its own.
  static bool isIn(const std::string& page, const std::string& text) {
    const std::size_t colon = text.find(": ");
    const std::string after = colon == std::string::npos ? text : text.substr(colon + 2);
    return page.find(report::escaped(after)) != std::string::npos;
  }
  static bool isSearchedFor(const Item& item) {
    return item.kind == "person" || item.kind == "path" || item.kind == "host" || item.kind == "identifier" ||
           item.kind == "boot";
  }
  void times() {
    const auto& passes = session_.recorded().passes;
    if (passes.empty()) return;
    const auto day = [](const core::Pass& pass) {
      return QDateTime::fromMSecsSinceEpoch(pass.started_ms, Qt::UTC).toString(Qt::ISODate).toStdString();
    };
    add("times", fmt::format("{} to {}", day(passes.front()), day(passes.back())),
        core::countText(static_cast<int>(passes.size()), "pass", "passes"));
  }
  void add(const std::string& kind, const std::string& text, const std::string& place) {
    if (text.empty()) return;
    const auto [known, is_new] = places_.emplace(std::pair(kind, text), items_.size());
    if (is_new) items_.push_back({kind, text});
    items_[known->second].places.push_back(place);
  }

  session::Session& session_;
  core::KnownNames known_;
  std::set<std::string> boots_;
  std::map<std::pair<std::string, std::string>, std::size_t> places_;
  std::vector<Item> items_;
};

struct Heading {
  const char* kind;
  const char* title;
};
constexpr std::array<Heading, 11> kHeadings{{
    {"person", "People"},
    {"bench", "The bench is called"},
    {"host", "The name of this computer"},
    {"path", "Places on a disk"},
    {"identifier", "Numbers that name a part, a disk or an account"},
    {"boot", "Starts of the machine, as its logs name them"},
    {"times", "When somebody was at work"},
    {"written", "What people wrote: names in it are not recognised"},
    {"settings", "Settings files of workloads, whole: names in them are not recognised"},
    {"printed", "What workloads printed, whole: names in it are not recognised"},
    {"picture", "Pictures: look at them yourself"},
}};

std::string shortened(const std::string& text) {
  constexpr std::size_t kShown = 80;
  const std::string line = core::shownLine(text);
  return line.size() <= kShown ? line : fmt::format("{}… ({} bytes)", core::cutText(line, kShown), text.size());
}

void printForReading(const std::vector<Item>& items, bool has_report, std::ostream& out) {
  for (const Heading& heading : kHeadings) {
    bool is_first = true;
    for (const Item& item : items) {
      if (item.kind != heading.kind) continue;
      if (std::exchange(is_first, false)) out << heading.title << '\n';
      out << fmt::format("  {} ({}{}){}\n", shortened(item.text), item.places.front(),
                         item.places.size() > 1 ? fmt::format(" and {} more", item.places.size() - 1) : "",
                         item.in_report.value_or(false) ? ", also in the report" : "");
    }
  }
  if (items.empty()) out << "Nothing was found.\n";
  out << (has_report ? "Marked is what was found in the report.\n" : "There is no report yet.\n");
}

json itemJson(const Item& item) {
  return {
      {"kind", item.kind}, {"text", item.text}, {"places", item.places}, {"in_report", report::orNull(item.in_report)}};
}

}  // namespace

core::Status personalCommand(const std::string& study_path, bool as_json, std::ostream& out) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    auto names = session::namesIn(session.open());
    if (!names) return names.error();
    Inventory inventory(session, *std::move(names));
    if (auto taken = inventory.take(); !taken) return taken;
    const core::Record record = store::recordOf(session.recorded());
    const core::Judgement judgement = core::judgementOf(session.study(), record);
    const auto page = report::htmlPage({session.study(), record, judgement, IRON_LEVER_VERSION,
                                        QDate::currentDate().toString(Qt::ISODate).toStdString()});
    if (page) inventory.lookInto(*page);
    if (!as_json) {
      printForReading(inventory.items(), page.ok(), out);
      return core::Done{};
    }
    json all = json::array();
    for (const Item& item : inventory.items()) all.push_back(itemJson(item));
    out << store::jsonText(json{{"study", study_path}, {"personal", all}}, 1) << '\n';
    return core::Done{};
  });
}

}  // namespace cli
