#include "session/bundle/nameless_study.h"

#include <array>
#include <utility>

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <nlohmann/json.hpp>

#include "core/estimate/wording.h"
#include "core/values/nameless_text.h"
#include "session/user/person.h"
#include "store/json/json_text.h"
#include "store/study/study_texts.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;
using core::PersonalKind;

constexpr std::array<std::pair<const char*, PersonalKind>, 4> kKinds{{{"host", PersonalKind::Host},
                                                                      {"serials", PersonalKind::Identifier},
                                                                      {"people", PersonalKind::Person},
                                                                      {"paths", PersonalKind::Path}}};
constexpr const char* kPictures = "pictures";

using nlohmann::ordered_json;

// What a format calls its own parts is nobody's name, whatever somebody is called: "bench", "user".
ordered_json namelessJson(const ordered_json& value, const std::string& key, core::NamelessText& nameless) {
  if (value.is_string()) {
    const auto text = value.get<std::string>();
    return key == "person" ? nameless.ofPerson(text) : nameless.of(text);
  }
  if (!value.is_structured()) return value;
  ordered_json anew = value.is_array() ? ordered_json::array() : ordered_json::object();
  for (const auto& [name, one] : value.items()) {
    if (value.is_array())
      anew.push_back(namelessJson(one, key, nameless));
    else
      anew[nameless.ofKey(name)] = namelessJson(one, name, nameless);
  }
  return anew;
}

// Columns whose text is read again by its form.
bool isJson(const store::StudyFile::Text& text) {
  for (const auto& [table, column] : {std::pair("study", "design"),
                                      {"capture", "facts"},
                                      {"measurement", "readings"},
                                      {"pass", "samples"},
                                      {"pass", "typed"},
                                      {"event", "text"}})
    if (text.table == table && text.column == column) return text.text.starts_with('{');
  return false;
}

std::string namelessText(const store::StudyFile::Text& text, core::NamelessText& nameless) {
  if (text.column == "person") return nameless.ofPerson(text.text);
  // What happened, and to what: an id has no blank, a case's title has.
  if (text.table == "event" && text.column == "kind") return text.text;
  if (text.table == "event" && text.column == "subject" && text.text.find(' ') == std::string::npos)
    return nameless.ofKey(text.text);
  if (!isJson(text)) return nameless.of(text.text);
  const ordered_json value = store::parseJson(text.text);
  return value.is_discarded() ? nameless.of(text.text) : store::jsonText(namelessJson(value, "", nameless), -1);
}

core::Result<int> picturesIn(OpenStudy& open) {
  const auto pictures = open.file().visitPictures();
  if (!pictures) return pictures.error();
  std::size_t count = pictures->size();
  for (const core::Pass& pass : open.recorded().passes) {
    const auto attached = open.file().attachments(pass.id);
    if (!attached) return attached.error();
    count += attached->size();
  }
  return static_cast<int>(count);
}

}  // namespace

std::vector<std::string> keptNames(const KeptPersonal& kept) {
  std::vector<std::string> names;
  for (const auto& [name, kind] : kKinds)
    if (kept.kinds.contains(kind)) names.emplace_back(name);
  if (kept.has_pictures) names.emplace_back(kPictures);
  return names;
}

core::Result<KeptPersonal> keptFrom(const std::vector<std::string>& names) {
  KeptPersonal kept;
  for (const std::string& name : names) {
    bool is_known = name == kPictures;
    kept.has_pictures = kept.has_pictures || is_known;
    for (const auto& [known, kind] : kKinds)
      if (name == known) {
        kept.kinds.insert(kind);
        is_known = true;
      }
    if (!is_known)
      return Error{ErrorKind::Malformed, "'" + name + "' is nothing that can be kept", "--keep",
                   "Name any of host, serials, people, paths and pictures, with commas between"};
  }
  return kept;
}

std::string leftOutText(const std::map<std::string, int>& left_out) {
  struct Words {
    const char* kind;
    const char* one;
    const char* more;
  };
  constexpr std::array<Words, 5> kWords{{{"host", "name of a computer", "names of computers"},
                                         {"serials", "serial number or address", "serial numbers or addresses"},
                                         {"people", "person", "people"},
                                         {"paths", "place on a disk", "places on a disk"},
                                         {kPictures, "picture", "pictures"}}};
  std::vector<std::string> parts;
  for (const Words& words : kWords)
    if (const auto found = left_out.find(words.kind); found != left_out.end() && found->second > 0)
      parts.push_back(core::countText(found->second, words.one, words.more));
  return fmt::format("{}", fmt::join(parts, ", "));
}

core::Result<core::KnownNames> namesIn(OpenStudy& open) {
  core::KnownNames names{{personAtThisMachine()}, hostName()};
  for (const store::Event& event : open.recorded().events) names.people.insert(event.person);
  for (const core::Pass& pass : open.recorded().passes)
    if (pass.typed) names.people.insert(pass.typed->person);
  for (const char* nobody : {"", "unknown", "root"}) names.people.erase(nobody);
  // A home tells a name that may stand without its path elsewhere.
  const auto read = store::forEachText(open.file(), [&](const store::StudyFile::Text& text) {
    if (text.table == "visit_picture" && text.column == "person" && !text.text.empty()) names.people.insert(text.text);
    for (core::PersonalText& one : core::personalTexts(text.text, names))
      if (one.kind == PersonalKind::Person && one.text != "root") names.people.insert(std::move(one.text));
  });
  if (!read) return read.error();
  return names;
}

core::Result<std::map<std::string, int>> copyNameless(OpenStudy& open, const std::string& path,
                                                      const KeptPersonal& kept) {
  const auto names = namesIn(open);
  if (!names) return names.error();
  std::set<PersonalKind> left_out;
  for (const auto& [name, kind] : kKinds)
    if (!kept.kinds.contains(kind)) left_out.insert(kind);
  core::NamelessText nameless(*names, left_out);
  const auto pictures = picturesIn(open);
  if (!pictures) return pictures.error();
  if (auto copied = open.file().copyTo(path); !copied) return copied.error();
  const auto rewritten = store::rewriteTexts(
      path, {[&](const store::StudyFile::Text& text) { return namelessText(text, nameless); }, kept.has_pictures});
  if (!rewritten) return rewritten.error();
  std::map<std::string, int> counts;
  const auto met = nameless.met();
  for (const auto& [name, kind] : kKinds)
    if (const auto found = met.find(kind); found != met.end()) counts[name] = found->second;
  if (!kept.has_pictures && *pictures > 0) counts[kPictures] = *pictures;
  return counts;
}

}  // namespace session
